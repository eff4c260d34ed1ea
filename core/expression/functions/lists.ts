/** Functions on lists (DMN 1.5 clause 10.3.4.4). Positions count from 1, or from the end where negative. */
import { numberOutcome, type Outcome } from '../../value/arithmetic'
import { areEqual, compareValues } from '../../value/compare'
import { Decimal } from '../../value/number'
import { textOfValue } from '../../value/value-text'
import { type FunctionValue, isList, isNumber, kindOf, type Value } from '../../value/value'
import { define } from './define'

type List = readonly Value[]
const WRONG: Outcome = { shortfall: 'wrong-kind' }
const list = (value: Value | undefined) => value as List

/** Over numbers alone: nothing comes of none, nor of a list with anything else in it. */
function overNumbers(run: (numbers: Decimal[]) => Decimal) {
  return ([numbers]: List): Outcome | Value => {
    const items = list(numbers)
    if (items.length === 0) return { shortfall: 'no-result' }
    return items.every(isNumber) ? numberOutcome(run(items as Decimal[])) : WRONG
  }
}

const sum = (numbers: readonly Decimal[]) => numbers.reduce((total, number) => total.plus(number), new Decimal(0))
const mean = (numbers: readonly Decimal[]) => sum(numbers).div(numbers.length)

function median(numbers: readonly Decimal[]): Decimal {
  const sorted = numbers.toSorted((a, b) => a.cmp(b))
  const middle = sorted.length >>> 1
  return sorted.length % 2 === 1 ? sorted[middle]! : sorted[middle - 1]!.plus(sorted[middle]!).div(2)
}

/** Of a sample: n - 1 below the line. */
function deviation(numbers: readonly Decimal[]): Decimal {
  const middle = mean(numbers)
  return sum(numbers.map((number) => number.minus(middle).pow(2))).div(numbers.length - 1).sqrt()
}

function mode(items: List): Value {
  const counts = new Map<string, { number: Decimal; count: number }>()
  for (const number of items as Decimal[]) {
    const seen = counts.get(number.toString())
    if (seen) seen.count++
    else counts.set(number.toString(), { number, count: 1 })
  }
  const most = [...counts.values()].reduce((best, { count }) => Math.max(best, count), 0)
  return [...counts.values()].filter(({ count }) => count === most).map(({ number }) => number).toSorted((a, b) => a.cmp(b))
}

/** The least of the items, or with `sign` -1 the greatest. */
function extreme(sign: 1 | -1) {
  return ([items]: List): Outcome | Value => {
    const [first, ...rest] = list(items)
    if (first === undefined) return { shortfall: 'no-result' }
    let best = first
    for (const item of rest) {
      const order = compareValues(item, best)
      if (order === null) return WRONG
      if (order * sign < 0) best = item
    }
    return compareValues(best, best) === null ? WRONG : best
  }
}

/** DMN 1.5 table 76: three-valued, as `and` and `or` are. */
function quantify(decisive: boolean) {
  return ([items]: List): Value => {
    if (list(items).includes(decisive)) return decisive
    return list(items).every((item) => item === !decisive) ? !decisive : null
  }
}

/** The place in a list that a position means; null where there is none. */
function placeOf(position: Value | undefined, length: number): number | null {
  const at = position as Decimal
  if (!at.isInteger() || at.isZero() || at.abs().gt(length)) return null
  return at.isNeg() ? length + at.toNumber() : at.toNumber() - 1
}

function atPlace(position: Value | undefined, items: List, change: (place: number) => Value): Outcome | Value {
  const place = placeOf(position, items.length)
  return place === null ? { shortfall: 'out-of-range' } : change(place)
}

/** Lists and moments are compared one with the other, and so are not many of them. */
const MOST_COMPARED = 500

/** Each value once, where it comes first. */
function distinct(items: List): Outcome | Value {
  const kept: Value[] = []
  const known = new Set<string>()
  const compared: Value[] = []
  for (const item of items) {
    const key = keyOf(item)
    if (key !== null ? known.has(key) : compared.some((other) => areEqual(item, other) === true)) continue
    if (key !== null) known.add(key)
    else if (compared.push(item) > MOST_COMPARED) return { shortfall: 'out-of-range' }
    kept.push(item)
  }
  return kept
}

/** A text that two values share where they are the same; null for kinds of which one value has several texts. */
function keyOf(value: Value): string | null {
  const kind = kindOf(value)
  return kind === 'number' || kind === 'text' || kind === 'boolean' || kind === 'null' || kind === 'date' ? `${kind} ${textOfValue(value)}` : null
}

function flatten(items: List): List {
  return items.flatMap((item) => (isList(item) ? flatten(item) : [item]))
}

function sublist([items, start, length]: List): Outcome | Value {
  const count = length as Decimal | null
  if (count && !(count.isInteger() && count.gte(1))) return { shortfall: 'out-of-range' }
  return atPlace(start, list(items), (from) => list(items).slice(from, count ? from + count.toNumber() : undefined))
}

/** By a function that says whether its first argument comes before its second; equal ones keep their order. */
function sort([items, precedes]: List): Outcome | Value {
  const before = precedes as FunctionValue
  if (before.arity !== 2) return WRONG
  return list(items).toSorted((a, b) => (before.apply([a, b]) === true ? -1 : before.apply([b, a]) === true ? 1 : 0))
}

const ANY_LIST = { list: 'any' } as const

export const LIST_FUNCTIONS = [
  define('list contains', ['list: list, element: any', 'boolean', ([items, element]) => list(items).some((item) => areEqual(item, element!) === true)]),
  define('count', ['list: list', 'number', ([items]) => new Decimal(list(items).length)]),
  define('min', ['list*: any', 'item', extreme(1)]),
  define('max', ['list*: any', 'item', extreme(-1)]),
  define('sum', ['list*: number', 'number', overNumbers(sum)]),
  define('mean', ['list*: number', 'number', overNumbers(mean)]),
  define('product', ['list*: number', 'number', overNumbers((numbers) => numbers.reduce((total, number) => total.times(number), new Decimal(1)))]),
  define('median', ['list*: number', 'number', overNumbers(median)]),
  define('stddev', ['list*: number', 'number', (args) => (list(args[0]).length < 2 ? { shortfall: 'no-result' } : overNumbers(deviation)(args))]),
  define('mode', ['list*: number', { list: 'number' }, ([items]) => (list(items).every(isNumber) ? (list(items).length === 0 ? [] : mode(list(items))) : WRONG)]),
  define('all', ['list*: any', 'boolean', quantify(false)]),
  define('any', ['list*: any', 'boolean', quantify(true)]),
  define('sublist', ['list: list, start position: number, length?: number', 'same', sublist]),
  define('append', ['list: list, item...: any', ANY_LIST, ([items, ...added]) => [...list(items), ...added]]),
  define('concatenate', ['list...: list', 'same', (lists) => lists.flatMap((items) => list(items))]),
  define('insert before', ['list: list, position: number, newItem: any', ANY_LIST, ([items, position, added]) => atPlace(position, list(items), (place) => list(items).toSpliced(place, 0, added!))]),
  define('remove', ['list: list, position: number', 'same', ([items, position]) => atPlace(position, list(items), (place) => list(items).toSpliced(place, 1))]),
  define('list replace',
    ['list: list, position: number, newItem: any', ANY_LIST, ([items, position, put]) => atPlace(position, list(items), (place) => list(items).with(place, put!))],
    ['list: list, match: function, newItem: any', ANY_LIST, ([items, match, put]) => list(items).map((item) => ((match as FunctionValue).apply([item, put!]) === true ? put! : item))]),
  define('reverse', ['list: list', 'same', ([items]) => list(items).toReversed()]),
  define('index of', ['list: list, match: any', { list: 'number' }, ([items, match]) => list(items).flatMap((item, at) => (areEqual(item, match!) === true ? [new Decimal(at + 1)] : []))]),
  define('union', ['list...: list', 'same', (lists) => distinct(lists.flatMap((items) => list(items)))]),
  define('distinct values', ['list: list', 'same', ([items]) => distinct(list(items))]),
  define('flatten', ['list: list', ANY_LIST, ([items]) => flatten(list(items))]),
  define('sort', ['list: list, precedes: function', 'same', sort]),
]
