/** The records of a column in the order of their values. */
import { compareDecimals } from '../value/number'
import { hasBit } from './bitmap'
import { decimalAt, type NumberColumn } from './number-column'
import { type Steps, stepsOf } from './steps'

const DIGIT = 16
const BUCKETS = 1 << DIGIT

/** The places that have a value, by value ascending, exactly; equal values in the order of their records. */
export function sortedPlaces(column: NumberColumn): Uint32Array {
  const steps = stepsOf(column)
  return steps ? placesByStep(column, steps) : placesByDouble(column)
}

function placesByStep({ valid, length }: NumberColumn, { above, count }: Steps): Uint32Array {
  const starts = new Uint32Array(count + 1)
  for (let at = 0; at < length; at++) if (hasBit(valid, at)) starts[above[at]! + 1]!++
  for (let step = 0; step < count; step++) starts[step + 1]! += starts[step]!
  const places = new Uint32Array(starts[count]!)
  for (let at = 0; at < length; at++) if (hasBit(valid, at)) places[starts[above[at]!]!++] = at
  return places
}

function placesByDouble(column: NumberColumn): Uint32Array {
  const { low, high, places } = sortKeys(column)
  let [from, to] = [places, new Uint32Array(places.length)]
  // Least significant digit first: each pass keeps the order of the one before.
  for (const [keys, shift] of [[low, 0], [low, DIGIT], [high, 0], [high, DIGIT]] as const) {
    const starts = new Uint32Array(BUCKETS + 1)
    for (const at of from) starts[((keys[at]! >>> shift) & (BUCKETS - 1)) + 1]!++
    for (let bucket = 0; bucket < BUCKETS; bucket++) starts[bucket + 1]! += starts[bucket]!
    for (const at of from) to[starts[(keys[at]! >>> shift) & (BUCKETS - 1)]!++] = at
    ;[from, to] = [to, from]
  }
  if (column.exact.size > 0) settleTies(column, from)
  return from
}

/** Unsigned 64-bit keys, in two halves, that ascend as the doubles do (IEEE 754-2008 clause 5.10, totalOrder). */
function sortKeys({ doubles, valid, length }: NumberColumn) {
  const [low, high, places] = [new Uint32Array(length), new Uint32Array(length), new Uint32Array(length)]
  const view = new DataView(new ArrayBuffer(8))
  let count = 0
  for (let at = 0; at < length; at++) {
    if (!hasBit(valid, at)) continue
    // Adding zero turns -0 into 0, which is the same number.
    view.setFloat64(0, doubles[at]! + 0)
    const [upper, lower] = [view.getUint32(0), view.getUint32(4)]
    const isNegative = upper >>> 31 === 1
    high[at] = isNegative ? ~upper : upper | 0x80000000
    low[at] = isNegative ? ~lower : lower
    places[count++] = at
  }
  return { low, high, places: places.slice(0, count) }
}

/** Among records that share a double, the decimals decide. */
function settleTies(column: NumberColumn, places: Uint32Array): void {
  for (let start = 0; start < places.length; ) {
    let end = start + 1
    while (end < places.length && column.doubles[places[end]!] === column.doubles[places[start]!]) end++
    const group = places.subarray(start, end)
    if (group.some((at) => column.exact.has(at))) group.sort((a, b) => compareDecimals(decimalAt(column, a)!, decimalAt(column, b)!) || a - b)
    start = end
  }
}
