/** The street trees of Port Ellery, an invented town: as many as are asked for, flaws included. */
import { type Chance, chance, dayFromAsOf } from './chance'

export const STREET_TREE_COLUMNS = [
  'Tree no', 'Species', 'Ward', 'Street', 'Planted', 'Height (m)', 'Trunk (cm)', 'Lean (°)', 'Decay (%)',
  'Stands by', 'Last inspected', 'Next due',
] as const

/** The number of trees in the demo's own table. */
export const STREET_TREES = 1240

/** Species, how common, usual height in metres, how soon they decay. */
const SPECIES: readonly (readonly [readonly [name: string, height: number, decay: number], number])[] = [
  [['Common lime', 19, 0.9], 14], [['London plane', 22, 0.6], 12], [['Norway maple', 15, 1], 10], [['Common ash', 18, 1.6], 9],
  [['Horse chestnut', 17, 1.5], 8], [['Silver birch', 12, 1.2], 8], [['Hornbeam', 13, 0.6], 7], [['Field maple', 10, 0.7], 6],
  [['Wild cherry', 10, 1.3], 5], [['Rowan', 8, 1.1], 5], [['Whitebeam', 9, 0.8], 4], [['Sycamore', 19, 1], 4],
  [['Pedunculate oak', 17, 0.5], 3], [['Sessile oak', 16, 0.5], 2], [['Turkish hazel', 11, 0.5], 2], [['Sweet gum', 12, 0.6], 2],
  [['Ginkgo', 13, 0.3], 2], [['Small-leaved lime', 16, 0.8], 2], [['Black poplar', 23, 1.7], 1.5], [['Crab apple', 6, 1.2], 1.5],
  [['Holm oak', 12, 0.4], 1], [['Foxglove tree', 10, 1.4], 0.7], [['Tulip tree', 18, 0.7], 0.7], [['Dawn redwood', 20, 0.3], 0.6],
]

const WARDS: readonly (readonly [readonly [ward: string, streets: readonly string[]], number])[] = [
  [['Mill Ward', ['Tannery Lane', 'Weir Street', 'Fuller Row', 'Sluice Road', 'Bobbin Street']], 201],
  [['Northgate', ['Chapel Steps', 'Abbey Gardens', 'Gatehouse Road', 'Lantern Street']], 187],
  [['Quayside', ['Harbour Row', 'Ropewalk', 'Netmakers Quay', 'Custom Street', 'Pilot Lane']], 168],
  [['Hill Ward', ['Upper Terrace', 'Kiln Road', 'Beacon Rise', 'Orchard Bank']], 154],
  [['Abbey', ['Cloister Street', 'Almoner Road', 'Fishpond Lane']], 143],
  [['Saltmarsh', ['Causeway', 'Samphire Road', 'Heron Street', 'Dyke Lane']], 134],
  [['Ropewalk', ['Hemp Street', 'Tarhouse Lane', 'Spindle Road']], 132],
  [['Castle', ['Barbican', 'Moat Street', 'Portcullis Lane']], 121],
]

const STANDS_BY = [['road', 34], ['footway', 30], ['verge', 20], ['play area', 8], ['school', 8]] as const

/**
 * Trees one after another, each as the texts of its record in column order.
 * The first 1,240 of a seed are the same however many are asked for.
 */
export function* streetTrees(count: number, seed = 20260302): Generator<string[]> {
  const luck = chance(seed)
  const width = Math.max(4, String(count).length)
  for (let number = 1; number <= count; number++) {
    yield withFlaws(number, tree(String(number).padStart(width, '0'), luck), luck)
  }
}

function tree(number: string, luck: Chance): string[] {
  const [species, usualHeight, decays] = luck.weighted(SPECIES)
  const [ward, streets] = luck.weighted(WARDS)
  const age = Math.round(4 + 86 * luck.share() ** 1.4)
  const height = Math.max(2.5, usualHeight * Math.min(1.15, 0.25 + age / 55) + 1.6 * luck.spread())
  const trunk = Math.max(6, age * 1.15 * (usualHeight / 15) + 7 * luck.spread() + 8)
  const lean = Math.max(0, Math.round(3.2 * Math.abs(luck.spread()) ** 1.7 + (luck.share() < 0.05 ? luck.whole(8, 22) : 0)))
  const ill = luck.share() < 0.12 + age / 240
  const decay = Math.min(96, ill ? 14 + 58 * luck.share() * decays ** 0.4 : 1 + 17 * luck.share() ** 1.4 * decays ** 0.5)
  const inspected = -luck.whole(12, 900)
  // The worse a tree was found, the sooner it is seen again.
  const interval = decay > 40 ? 180 : decay > 25 ? 365 : 1095
  return [
    number, species, ward, luck.one(streets), dayFromAsOf(-age * 365 - luck.whole(0, 364)), height.toFixed(1), trunk.toFixed(0),
    String(lean), halves(decay), luck.weighted(STANDS_BY), dayFromAsOf(inspected), dayFromAsOf(inspected + interval + luck.whole(-20, 40)),
  ]
}

function halves(value: number): string {
  return String(Math.round(value * 2) / 2)
}

const [SPECIES_AT, TRUNK_AT, LEAN_AT, DECAY_AT] = [1, 6, 7, 8] as const
/** Flaws that the demo's descriptions speak of, by tree number. */
const KNOWN_FLAWS: Readonly<Record<number, readonly [column: number, text: string]>> = {
  66: [DECAY_AT, '40'], 257: [DECAY_AT, '25'], 349: [DECAY_AT, 'n/a'], 518: [LEAN_AT, '15'],
  703: [TRUNK_AT, '35 cm'], 871: [DECAY_AT, '140'], 1016: [DECAY_AT, 'n/a'], 1188: [TRUNK_AT, '62cm'],
}

function withFlaws(number: number, record: string[], luck: Chance): string[] {
  const [lacksLean, lacksDecay, slips] = [luck.share() < 0.02, luck.share() < 0.024, luck.share()]
  if (lacksLean) record[LEAN_AT] = ''
  if (lacksDecay) record[DECAY_AT] = ''
  if (slips < 0.008) record[SPECIES_AT] += ' '
  else if (slips < 0.014) record[SPECIES_AT] = record[SPECIES_AT]!.toLowerCase()
  const known = KNOWN_FLAWS[number]
  if (known) record[known[0]] = known[1]
  return record
}
