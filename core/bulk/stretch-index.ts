/** The records of a column by stretches of its values: what lies between two values is found without a look at all others. */

export interface StretchIndex {
  /** Where the first stretch begins, and how many stretches one unit of the values has. */
  from: number
  perUnit: number
  /** By stretch, where its records begin in `places`; the last entry is where they end. */
  starts: Uint32Array
  places: Uint32Array
  /** The doubles of `places`: read one after the other they are at hand, read record by record they are not. */
  values: Float64Array
}

const STRETCHES = 4096
/** With more of all records than this in one stretch, a look at all is as good. */
const MOST_IN_ONE = 1 / 16

const ranges = new WeakMap<Float64Array, readonly [least: number, most: number]>()
const indexes = new WeakMap<Float64Array, StretchIndex | null>()

/** The least and the greatest of some doubles, found once; without end where one of them is no number at all. */
export function rangeOf(doubles: Float64Array): readonly [least: number, most: number] {
  const known = ranges.get(doubles)
  if (known) return known
  let [least, most] = [Infinity, -Infinity]
  const { length } = doubles
  for (let at = 0; at < length; at++) {
    const value = doubles[at]!
    if (value < least) least = value
    if (value > most) most = value
    if (value !== value) [least, most] = [-Infinity, Infinity]
  }
  const range = [least, most] as const
  ranges.set(doubles, range)
  return range
}

/** @returns null where the values are spread too unevenly to gain anything */
export function stretchIndex(doubles: Float64Array): StretchIndex | null {
  const known = indexes.get(doubles)
  if (known !== undefined) return known
  const made = makeIndex(doubles)
  indexes.set(doubles, made)
  return made
}

function makeIndex(doubles: Float64Array): StretchIndex | null {
  const [from, most] = rangeOf(doubles)
  const perUnit = most > from ? STRETCHES / (most - from) : 0
  if (perUnit === 0 || !Number.isFinite(perUnit)) return null
  const { length } = doubles
  const starts = new Uint32Array(STRETCHES + 2)
  for (let at = 0; at < length; at++) starts[(((doubles[at]! - from) * perUnit) | 0) + 1]!++
  if (starts.some((records) => records > length * MOST_IN_ONE)) return null
  for (let stretch = 1; stretch < starts.length; stretch++) starts[stretch]! += starts[stretch - 1]!
  const next = starts.slice()
  const places = new Uint32Array(length)
  const values = new Float64Array(length)
  for (let at = 0; at < length; at++) {
    const place = next[((doubles[at]! - from) * perUnit) | 0]!++
    places[place] = at
    values[place] = doubles[at]!
  }
  return { from, perUnit, starts, places, values }
}

/** The records whose values may lie from `low` to `high`, with these values; some lie beside, none is left out. */
export function placesBetween({ from, perUnit, starts, places, values }: StretchIndex, low: number, high: number): { places: Uint32Array; values: Float64Array } {
  const stretch = (value: number) => Math.max(0, Math.min(STRETCHES, (value - from) * perUnit)) | 0
  const [first, end] = [starts[stretch(low)], starts[stretch(high) + 1]]
  return { places: places.subarray(first, end), values: values.subarray(first, end) }
}
