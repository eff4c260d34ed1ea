/** Where doubles lie between thresholds: how many of these are at most each of them. */
import { sizeOf } from '../rule/axes'
import { Decimal, decimalTextOf } from '../value/number'
import type { RangeValue } from '../value/value'
import { rangeOf } from './stretch-index'

/** The doubles that stand for the decimals of a piece: from the first up to, not including, the second. */
export function stretchOf({ low, high, lowIncluded, highIncluded }: RangeValue): [from: number, to: number] {
  return [low === null ? -Infinity : firstDouble(sizeOf(low), lowIncluded), high === null ? Infinity : firstDouble(sizeOf(high), !highIncluded)]
}

/** The least double whose decimal is at least the bound, or with `included` false greater than it. */
function firstDouble(bound: Decimal, included: boolean): number {
  const double = bound.toNumber()
  const order = Number.isFinite(double) ? new Decimal(decimalTextOf(double)).cmp(bound) : 0
  return order > 0 || (order === 0 && included) ? double : nextUp(double)
}

/** IEEE 754-2008 clause 5.3.1. */
function nextUp(double: number): number {
  if (double === Infinity) return double
  if (double === 0) return Number.MIN_VALUE
  const view = new DataView(new ArrayBuffer(8))
  view.setFloat64(0, double)
  const bits = view.getBigInt64(0)
  view.setBigInt64(0, double > 0 ? bits + 1n : bits - 1n)
  return view.getFloat64(0)
}

/** All ends of pieces, each once, ascending. */
export function thresholdsOf(pieces: readonly RangeValue[]): Float64Array {
  return Float64Array.from(new Set(pieces.flatMap((piece) => stretchOf(piece)).filter(Number.isFinite))).sort()
}

/** A number for each record. */
export type RecordNumbers = Uint16Array | Uint32Array

export function roomForNumbers(count: number, length: number): RecordNumbers {
  return count <= 0x10000 ? new Uint16Array(length) : new Uint32Array(length)
}

const STRETCHES = 4096
/** Stands for the class of a stretch in which a threshold lies. */
const SPLIT = 0xffff

/** The class of a double by the stretch that it lies in: stretch 0 begins at `base`, and all are equally wide. */
interface Stretches {
  perUnit: number
  base: number
  classes: Uint16Array
}

/** @returns null where the doubles are too far from each other, or from nothing, to be told apart by stretches */
function stretchesOf(from: number, to: number, thresholds: Float64Array, classOf: Uint32Array): Stretches | null {
  const perUnit = to > from ? STRETCHES / (to - from) : 0
  const [first, last] = [Math.trunc(from * perUnit), Math.trunc(to * perUnit)]
  if (!(Math.max(Math.abs(first), Math.abs(last)) < 2 ** 30) || last - first > STRETCHES + 1 || perUnit === 0 || classOf.length >= SPLIT) return null
  const classes = new Uint16Array(last - first + 1)
  // Stretches rise with values, so that a threshold in an earlier one is less.
  const stretchOf = (value: number) => Math.trunc(Math.max(from, Math.min(to, value)) * perUnit) - first
  for (let at = 0, passed = 0; at < classes.length; at++) {
    classes[at] = classOf[passed]!
    for (; passed < thresholds.length && stretchOf(thresholds[passed]!) === at; passed++) classes[at] = SPLIT
  }
  return { perUnit, base: first, classes }
}

/**
 * Puts a class behind the number of each record: what was `n` is `n × width + class`.
 * @param thresholds ascending
 * @param classOf by number of thresholds passed, the class
 */
export function addIntervals(numbers: RecordNumbers, doubles: Float64Array, thresholds: Float64Array, classOf: Uint32Array, width: number): void {
  const { length } = doubles
  const [least, most] = rangeOf(doubles)
  // Values far out are not worth stretches of their own.
  const [first, last] = [thresholds[0] ?? 0, thresholds.at(-1) ?? 0]
  const room = (last - first || 1) * 8
  const [from, to] = [Math.max(least, first - room), Math.min(most, last + room)]
  const stretches = stretchesOf(from, to, thresholds, classOf)
  if (stretches && from === least && to === most) addByStretch(numbers, doubles, stretches, thresholds, classOf, width)
  else if (stretches) addByStretchWithin(numbers, doubles, from, to, stretches, thresholds, classOf, width)
  else for (let at = 0; at < length; at++) numbers[at] = Math.imul(numbers[at]!, width) + classOf[intervalOf(doubles[at]!, thresholds)]!
}

/**
 * One look into a table for nearly every value, and no branch that the processor could guess wrongly. Comparing each
 * value with the thresholds, or a search by halves, took two to five times as long.
 */
function addByStretch(numbers: RecordNumbers, doubles: Float64Array, { perUnit, base, classes }: Stretches, thresholds: Float64Array, classOf: Uint32Array, width: number): void {
  const { length } = doubles
  for (let at = 0; at < length; at++) {
    const found = classes[((doubles[at]! * perUnit) | 0) - base]!
    numbers[at] = Math.imul(numbers[at]!, width) + (found === SPLIT ? classOf[intervalOf(doubles[at]!, thresholds)]! : found)
  }
}

function addByStretchWithin(numbers: RecordNumbers, doubles: Float64Array, low: number, high: number, { perUnit, base, classes }: Stretches, thresholds: Float64Array, classOf: Uint32Array, width: number): void {
  const { length } = doubles
  for (let at = 0; at < length; at++) {
    const value = doubles[at]!
    const found = value >= low && value <= high ? classes[((value * perUnit) | 0) - base]! : SPLIT
    numbers[at] = Math.imul(numbers[at]!, width) + (found === SPLIT ? classOf[intervalOf(value, thresholds)]! : found)
  }
}

/** How many thresholds are at most `value`. */
export function intervalOf(value: number, thresholds: Float64Array): number {
  let [from, to] = [0, thresholds.length]
  while (from < to) {
    const middle = (from + to) >>> 1
    if (thresholds[middle]! <= value) from = middle + 1
    else to = middle
  }
  return from
}
