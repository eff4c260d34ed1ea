/** Where doubles lie between thresholds: how many of these are at most each of them. */
import { sizeOf } from '../rule/axes'
import { Decimal, decimalTextOf } from '../value/number'
import type { RangeValue } from '../value/value'
import type { AddClasses, RecordNumbers } from './record-numbers'
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

/** How many stretches a range of values is cut into: few where these do, so that the tables stay close to the processor. */
const STRETCHES = [1024, 8192]

/** The class of a double by the stretch that it lies in: stretch 0 begins at `base`, and all are equally wide. */
interface Stretches {
  perUnit: number
  base: number
  /** By stretch the thresholds in it: the first, and the last, which is the same where it is one alone; without end where there is none. */
  firsts: Float64Array
  lasts: Float64Array
  /**
   * By stretch the class of all that lies in it, or UNEVEN; then, as many entries further on each, the classes below the
   * first threshold, between the two, and from the last one on.
   */
  classes: Int32Array
}

/** A threshold is in the stretch. */
const UNEVEN = -1

/** @returns null where the doubles are too far from each other or from nothing, or the thresholds too close to each other, to be told apart by stretches */
function stretchesOf(from: number, to: number, thresholds: Float64Array, classOf: Uint32Array): Stretches | null {
  for (const most of [1, 2] as const) {
    for (const count of STRETCHES) {
      const perUnit = to > from ? count / (to - from) : 0
      const [first, last] = [Math.trunc(from * perUnit), Math.trunc(to * perUnit)]
      if (!(Math.max(Math.abs(first), Math.abs(last)) < 2 ** 30) || last - first > count + 1 || perUnit === 0) return null
      const found = filledStretches({ perUnit, first, last, most }, [from, to], thresholds, classOf)
      if (found) return found
    }
  }
  return null
}

/** @returns null where a stretch has more thresholds than `most` */
function filledStretches({ perUnit, first, last, most }: { perUnit: number; first: number; last: number; most: 1 | 2 }, [from, to]: [number, number], thresholds: Float64Array, classOf: Uint32Array): Stretches | null {
  const length = last - first + 1
  const found = { perUnit, base: first, firsts: new Float64Array(length).fill(Infinity), lasts: new Float64Array(length).fill(Infinity), classes: new Int32Array(4 * length) }
  const { firsts, lasts, classes } = found
  // Stretches rise with values, so that a threshold in an earlier one is less.
  const stretchOf = (value: number) => Math.trunc(value * perUnit) - first
  // All values have passed what lies before them, and none gets to what lies behind them.
  let passed = intervalOf(from, thresholds)
  const reached = intervalOf(to, thresholds)
  for (let at = 0; at < length; at++) {
    const before = passed
    while (passed < reached && stretchOf(thresholds[passed]!) === at) passed++
    if (passed > before + most) return null
    classes[at] = passed === before ? classOf[passed]! : UNEVEN
    if (passed === before) continue
    firsts[at] = thresholds[before]!
    lasts[at] = thresholds[passed - 1]!
    classes[length + at] = classOf[before]!
    classes[2 * length + at] = classOf[before + 1]!
    classes[3 * length + at] = classOf[passed]!
  }
  return found
}

/**
 * Gives what puts a class behind the number of each record: what was `n` is `n × width + class`.
 * @param thresholds ascending
 * @param classOf by number of thresholds passed, the class
 */
export function intervalAdder(doubles: Float64Array, thresholds: Float64Array, classOf: Uint32Array): AddClasses {
  const [least, most] = rangeOf(doubles)
  // Values far out are not worth stretches of their own.
  const [first, last] = [thresholds[0] ?? 0, thresholds.at(-1) ?? 0]
  const room = (last - first || 1) * 8
  const [low, high] = [Math.max(least, first - room), Math.min(most, last + room)]
  const stretches = stretchesOf(low, high, thresholds, classOf)
  if (stretches && low === least && high === most) return (numbers, width, from) => addByStretch(numbers, doubles.subarray(from, from + numbers.length), stretches, width)
  if (stretches) return (numbers, width, from) => addByStretchWithin(numbers, doubles.subarray(from, from + numbers.length), low, high, stretches, width)
  return (numbers, width, from) => {
    for (let at = 0; at < numbers.length; at++) numbers[at] = Math.imul(numbers[at]!, width) + classOf[intervalOf(doubles[from + at]!, thresholds)]!
  }
}

/**
 * One look into a table, and in the few stretches that a threshold lies in one or two comparisons. Comparing each value with
 * all thresholds, or a search by halves, took two to five times as long. Few arrays, so that all of them stay at hand.
 */
function addByStretch(numbers: RecordNumbers, doubles: Float64Array, { perUnit, base, firsts, lasts, classes }: Stretches, width: number): void {
  const { length } = numbers
  const below = firsts.length
  const [between, above] = [2 * below, 3 * below]
  for (let at = 0; at < length; at++) {
    const value = doubles[at]!
    const stretch = ((value * perUnit) | 0) - base
    let own = classes[stretch]!
    if (own < 0) own = classes[(value >= firsts[stretch]! ? (value >= lasts[stretch]! ? above : between) : below) + stretch]!
    numbers[at] = Math.imul(numbers[at]!, width) + own
  }
}

/** What lies beyond, or is no number, counts to the stretch at the end. */
function addByStretchWithin(numbers: RecordNumbers, doubles: Float64Array, low: number, high: number, { perUnit, base, firsts, lasts, classes }: Stretches, width: number): void {
  const { length } = numbers
  const below = firsts.length
  const [between, above] = [2 * below, 3 * below]
  for (let at = 0; at < length; at++) {
    const value = doubles[at]!
    const stretch = (((value >= low ? (value <= high ? value : high) : low) * perUnit) | 0) - base
    let own = classes[stretch]!
    if (own < 0) own = classes[(value >= firsts[stretch]! ? (value >= lasts[stretch]! ? above : between) : below) + stretch]!
    numbers[at] = Math.imul(numbers[at]!, width) + own
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
