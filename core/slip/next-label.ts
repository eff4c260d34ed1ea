/**
 * What a record would have needed for the next label above its own: for each input by itself, where its value would have had to
 * lie while all others stay as they are. Proven by deciding: a stretch is told only where every value in it gets the label.
 */
import { freeNames } from '../expression/tree'
import { type Probe, probeOf, type Sample } from '../form/probe'
import type { Gate, Label } from '../gate/document'
import type { Bound, Interval } from '../gate/interval'
import { type Axis, type Region, sizeOf, spaceOf } from '../rule/axes'
import { compareValues } from '../value/compare'
import { type Decimal, plain } from '../value/number'
import type { DateValue, Value } from '../value/value'
import { textOfValue } from '../value/value-text'

export type Way =
  /** @property past how far the value is from there, along the axis: in its unit, days, months or seconds */
  | { input: string; kind: 'stretch'; stretch: Interval; isRise: boolean; past: string }
  /** Any of these values, in canonical text. */
  | { input: string; kind: 'values'; values: string[] }

export interface NextLabel {
  label: string
  /** None where no input by itself would have done. */
  ways: Way[]
}

/** Finds it for one record after the other of a gate. */
export interface NextFinder {
  /** @returns null where the record has no label, or the highest */
  next(label: string | null, values: Sample): NextLabel | null
}

/** @returns null where the labels have no ranks, or what a record gets is no matter of one rule */
export function nextFinder(gate: Gate, today: DateValue): NextFinder | null {
  const [outcome] = gate.outcomes
  const ranked = outcome!.labels.filter((one): one is Label & { rank: number } => one.rank !== null)
  const probe = probeOf(gate, today)
  if (ranked.length < 2 || !probe) return null
  const rankOf = new Map(ranked.map(({ value, rank }) => [value, rank]))
  const { axes } = spaceOf(probe.lowered, today)
  // Within a region of its own axis another test may change its mind, where that looks at the same input in an expression.
  const mixed = new Set(axes.filter(({ isInput }) => !isInput).flatMap(({ subject }) => freeNames(subject)))
  const own = axes.filter(({ isInput, name }) => isInput && !mixed.has(name))
  return {
    next(label, values) {
      const rank = label === null ? undefined : rankOf.get(label)
      const above = ranked.filter((one) => rank !== undefined && one.rank > rank).toSorted((one, other) => one.rank - other.rank)
      if (above.length === 0) return null
      const found = own.filter(({ name }) => (values.get(name) ?? null) !== null).map((axis) => ({ axis, ranks: ranksAlong(probe, rankOf, axis, values) }))
      for (const { value, rank: wanted } of above) {
        const ways = found.flatMap(({ axis, ranks }) => wayAlong(axis, ranks, wanted, values.get(axis.name)!))
        if (ways.length > 0) return { label: value, ways }
      }
      return { label: above[0]!.value, ways: [] }
    },
  }
}

/** By region of an axis the rank of what the record would get there; null for no label, or one without a rank. */
function ranksAlong(probe: Probe, rankOf: ReadonlyMap<string, number>, { name, regions }: Axis, values: Sample): (number | null)[] {
  const samples = regions.map(({ example }): Sample => new Map([...values, [name, example]]))
  return probe.all(samples).map(({ got }) => ('label' in got ? (rankOf.get(got.label) ?? null) : null))
}

function wayAlong(axis: Axis, ranks: readonly (number | null)[], wanted: number, value: Value): Way[] {
  const { name, regions, isOrdered } = axis
  const isWanted = (at: number) => ranks[at] === wanted && regions[at]!.isExpected
  if (!isOrdered) {
    const values = regions.flatMap(({ example, isPoint }, at) => (isPoint && isWanted(at) ? [textOfValue(example)] : []))
    return values.length > 0 ? [{ input: name, kind: 'values', values }] : []
  }
  const here = regions.findIndex((region) => isWithin(value, region))
  if (here < 0) return []
  const reaches = ([1, -1] as const).flatMap((step) => stretchFrom(axis, here, step, isWanted, (at) => (ranks[at] ?? -Infinity) >= wanted, value))
  const [nearest] = reaches.toSorted((one, other) => one.distance.cmp(other.distance))
  return nearest ? [{ input: name, kind: 'stretch', stretch: nearest.stretch, isRise: nearest.isRise, past: plain(nearest.distance) }] : []
}

interface Reach {
  stretch: Interval
  isRise: boolean
  distance: Decimal
}

/** @param isEnough whether what lies there is no worse, so that the stretch goes on */
function stretchFrom({ regions }: Axis, here: number, step: 1 | -1, isWanted: (at: number) => boolean, isEnough: (at: number) => boolean, value: Value): Reach[] {
  let first = here + step
  while (regions[first] && !isWanted(first)) first += step
  if (!regions[first]) return []
  let last = first
  while (regions[last + step]?.isExpected && isEnough(last + step)) last += step
  const [near, far] = [endOf(regions[first]!, step === 1 ? 'low' : 'high'), endOf(regions[last]!, step === 1 ? 'high' : 'low')]
  if (!near) return []
  // Beyond what is expected at all nobody needs to be told of an end.
  const isOpen = !regions[last + step]?.isExpected
  const [low, high] = step === 1 ? [near, isOpen ? null : far] : [isOpen ? null : far, near]
  const bound = step === 1 ? regions[first]!.low : regions[first]!.high
  return [{ stretch: { low, high }, isRise: step === 1, distance: sizeOf(bound).minus(sizeOf(value)).abs() }]
}

function endOf(region: Region, side: 'low' | 'high'): Bound | null {
  const end = region[side]
  return end === null ? null : { at: textOfValue(end), included: region.isPoint }
}

function isWithin(value: Value, { low, high, isPoint }: Region): boolean {
  if (isPoint) return compareValues(value, low) === 0
  return (low === null || compareValues(value, low)! > 0) && (high === null || compareValues(value, high)! < 0)
}
