/** The picture of a comparison: on the left where records were, on the right where they are, and between them what moved. */
import type { Comparison, KeptLanding, KeptMove } from '@dime-gate/contract/comparison'

export type Place = KeptLanding | null

/** A block of one side. */
export interface FlowNode {
  key: string
  place: Place
  records: number
  /** In pixels from the top of the picture. */
  top: number
  height: number
}

/** A band between two blocks; as thick as its records, at both ends from the middle. */
export interface FlowBand {
  key: string
  move: KeptMove
  isStay: boolean
  from: number
  to: number
  thickness: number
}

export interface Flows {
  left: FlowNode[]
  right: FlowNode[]
  bands: FlowBand[]
  height: number
  /** Whether names and counts are side by side. */
  isNarrow: boolean
}

/** Every block has room for its name and its count: below one another, or side by side where there are many. */
interface Room {
  slot: number
  gap: number
}
const WIDE: Room = { slot: 40, gap: 8 }
const NARROW: Room = { slot: 18, gap: 6 }
const MOST_WIDE = 10
const THINNEST = 1.5

export function placeKey(place: Place): string {
  return place === null ? 'none' : place.kind === 'label' ? `label ${place.label}` : place.kind
}

/** Labels in their own order, then what else becomes of records; those that are in one run alone come last. */
function orderOf(labels: readonly string[]): (place: Place) => number {
  const others = ['unplaced', 'held', 'contested']
  return (place) => {
    if (place === null) return Infinity
    if (place.kind !== 'label') return labels.length + 1 + others.indexOf(place.kind)
    const at = labels.indexOf(place.label)
    return at < 0 ? labels.length : at
  }
}

/** @param height that the picture should have; it grows where there is no room for all names */
export function flowsOf({ stayed, moves }: Pick<Comparison, 'stayed' | 'moves'>, labels: readonly string[], height: number): Flows {
  const order = orderOf(labels)
  const all = [...stayed.map(({ at, records }): KeptMove & { isStay: boolean } => ({ from: at, to: at, records, isStay: true })), ...moves.map((move) => ({ ...move, isStay: false }))]
  const sides = (['from', 'to'] as const).map((side) => {
    const records = new Map<string, { place: Place; records: number }>()
    for (const one of all) {
      const key = placeKey(one[side])
      records.set(key, { place: one[side], records: (records.get(key)?.records ?? 0) + one.records })
    }
    return [...records.values()].toSorted((a, b) => order(a.place) - order(b.place))
  })
  const room = sides.some((side) => side.length > MOST_WIDE) ? NARROW : WIDE
  const tall = Math.max(height, ...sides.map((side) => side.length * (room.slot + room.gap)))
  const scale = Math.min(...sides.map((side) => scaleFor(side.map(({ records }) => records), tall, room)))
  const [left, right] = sides.map((side) => placed(side, scale, room)) as [FlowNode[], FlowNode[]]
  return { left, right, bands: bandsOf(all, left, right, scale, order), height: Math.max(...[...left, ...right].map(({ top, height: own }) => top + Math.max(own, room.slot)), 0), isNarrow: room === NARROW }
}

/** Pixels a record, so that all blocks fit: small ones take the room of their names. */
function scaleFor(records: readonly number[], height: number, { slot, gap }: Room): number {
  const used = (scale: number) => records.reduce((sum, one) => sum + Math.max(slot, one * scale) + gap, 0)
  let [low, high] = [0, height]
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2
    if (used(middle) > height) high = middle
    else low = middle
  }
  return low
}

function placed(side: readonly { place: Place; records: number }[], scale: number, { slot, gap }: Room): FlowNode[] {
  let top = 0
  return side.map(({ place, records }) => {
    const node = { key: placeKey(place), place, records, top, height: Math.max(THINNEST, records * scale) }
    top += Math.max(slot, node.height) + gap
    return node
  })
}

/** Bands leave and arrive in the order of the other side, so that they cross as little as they can. */
function bandsOf(all: readonly (KeptMove & { isStay: boolean })[], left: readonly FlowNode[], right: readonly FlowNode[], scale: number, order: (place: Place) => number): FlowBand[] {
  const [leaving, arriving] = [new Map(left.map(({ key, top }) => [key, top])), new Map(right.map(({ key, top }) => [key, top]))]
  const thicknessOf = ({ records }: KeptMove) => Math.max(THINNEST, records * scale)
  const take = (ends: Map<string, number>, key: string, thickness: number) => {
    const top = ends.get(key)!
    ends.set(key, top + thickness)
    return top + thickness / 2
  }
  const byLeft = all.toSorted((a, b) => order(a.from) - order(b.from) || order(a.to) - order(b.to))
  const from = new Map(byLeft.map((one) => [one, take(leaving, placeKey(one.from), thicknessOf(one))]))
  const byRight = all.toSorted((a, b) => order(a.to) - order(b.to) || order(a.from) - order(b.from))
  const to = new Map(byRight.map((one) => [one, take(arriving, placeKey(one.to), thicknessOf(one))]))
  return byLeft.map((one) => {
    const { isStay, ...move } = one
    return { key: `${placeKey(one.from)} → ${placeKey(one.to)}`, move, isStay, from: from.get(one)!, to: to.get(one)!, thickness: thicknessOf(one) }
  })
}
