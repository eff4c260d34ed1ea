/** How ranges and points lie to each other (DMN 1.5 clause 10.3.4.9, table 78). */
import type { Outcome } from '../../value/arithmetic'
import { compareValues } from '../../value/compare'
import { parseTemporal } from '../../value/temporal'
import { numberFromText } from '../../value/value-text'
import type { RangeValue, Value } from '../../value/value'
import { define } from './define'

const NONE: Outcome = { shortfall: 'no-result' }

/** A point is the range from itself to itself. */
function asRange(value: Value): RangeValue {
  const isRange = typeof value === 'object' && value !== null && 'kind' in value && value.kind === 'range'
  return isRange ? value : { kind: 'range', low: value, high: value, lowIncluded: true, highIncluded: true }
}

/** Tells how ends lie to each other; an open end lies beyond all others, on its own side. */
class Ends {
  isUnknown = false

  constructor(readonly a: RangeValue, readonly b: RangeValue) {}

  order(first: Value, firstOpen: 1 | -1, second: Value, secondOpen: 1 | -1): number {
    if (first === null || second === null) return (first === null ? firstOpen : 0) - (second === null ? secondOpen : 0)
    const order = compareValues(first, second)
    if (order === null) this.isUnknown = true
    return order ?? 0
  }

  /** Whether all of `x` comes before all of `y`. */
  isBefore(x: RangeValue, y: RangeValue): boolean {
    const order = this.order(x.high, 1, y.low, -1)
    return order < 0 || (order === 0 && !(x.highIncluded && y.lowIncluded))
  }

  /** Below 0 where `x` begins before `y`. */
  low(x: RangeValue, y: RangeValue): number {
    return this.order(x.low, -1, y.low, -1) || Number(y.lowIncluded) - Number(x.lowIncluded)
  }

  high(x: RangeValue, y: RangeValue): number {
    return this.order(x.high, 1, y.high, 1) || Number(x.highIncluded) - Number(y.highIncluded)
  }

  meets(x: RangeValue, y: RangeValue): boolean {
    return x.highIncluded && y.lowIncluded && x.high !== null && this.order(x.high, 1, y.low, -1) === 0
  }
}

function relation(name: string, parameters: readonly string[], holds: (ends: Ends) => boolean) {
  return define(name, ...parameters.map((signature): [string, 'boolean', (args: readonly Value[]) => Outcome | Value] => [signature, 'boolean', ([a, b]) => {
    const ends = new Ends(asRange(a!), asRange(b!))
    const result = holds(ends)
    return ends.isUnknown ? { shortfall: 'wrong-kind' } : result
  }]))
}

const RANGES = 'range1: range, range2: range'
const POINT_IN_RANGE = ['point: any, range: range', RANGES]

export const RANGE_FUNCTIONS = [
  relation('before', ['point1: any, point2: any'], (e) => e.isBefore(e.a, e.b)),
  relation('after', ['point1: any, point2: any'], (e) => e.isBefore(e.b, e.a)),
  relation('meets', [RANGES], (e) => e.meets(e.a, e.b)),
  relation('met by', [RANGES], (e) => e.meets(e.b, e.a)),
  relation('overlaps', [RANGES], (e) => !e.isBefore(e.a, e.b) && !e.isBefore(e.b, e.a)),
  relation('overlaps before', [RANGES], (e) => e.low(e.a, e.b) < 0 && !e.isBefore(e.a, e.b) && e.high(e.a, e.b) <= 0),
  relation('overlaps after', [RANGES], (e) => e.low(e.b, e.a) < 0 && !e.isBefore(e.b, e.a) && e.high(e.b, e.a) <= 0),
  relation('finishes', POINT_IN_RANGE, (e) => e.high(e.a, e.b) === 0 && e.low(e.a, e.b) >= 0),
  relation('finished by', ['range: range, point: any', RANGES], (e) => e.high(e.a, e.b) === 0 && e.low(e.a, e.b) <= 0),
  relation('includes', ['range: range, point: any', RANGES], (e) => e.low(e.a, e.b) <= 0 && e.high(e.a, e.b) >= 0),
  relation('during', POINT_IN_RANGE, (e) => e.low(e.a, e.b) >= 0 && e.high(e.a, e.b) <= 0),
  relation('starts', POINT_IN_RANGE, (e) => e.low(e.a, e.b) === 0 && e.high(e.a, e.b) <= 0),
  relation('started by', ['range: range, point: any', RANGES], (e) => e.low(e.a, e.b) === 0 && e.high(e.a, e.b) >= 0),
  relation('coincides', ['point1: any, point2: any'], (e) => e.low(e.a, e.b) === 0 && e.high(e.a, e.b) === 0),
  define('range', ['from: text', { range: 'any' }, ([text]) => rangeFrom(text as string)]),
]

/** As a range is written; a side with a round bracket and nothing else is open. */
function rangeFrom(text: string): Outcome | Value {
  const written = text.trim()
  const dots = written.indexOf('..')
  const parts = [written.slice(0, 1), written.slice(1, Math.max(1, dots)).trim(), written.slice(dots + 2, -1).trim(), written.slice(-1)] as const
  if (dots < 1 || !'[]('.includes(parts[0]) || !'])['.includes(parts[3])) return NONE
  const [low, high] = [endFrom(parts[1]), endFrom(parts[2])]
  const [isOpenLow, isOpenHigh] = [parts[1] === '' && parts[0] !== '[', parts[2] === '' && parts[3] !== ']']
  if (isOpenLow ? isOpenHigh || high === null : low === null || (high === null && !isOpenHigh)) return NONE
  if (low !== null && high !== null && !((compareValues(low, high) ?? 1) <= 0)) return NONE
  return { kind: 'range', low, high, lowIncluded: parts[0] === '[', highIncluded: parts[3] === ']' }
}

function endFrom(text: string): Value {
  const temporal = /^@?"(.*)"$/.exec(text)
  if (temporal) return text.startsWith('@') ? parseTemporal(temporal[1]!) : temporal[1]!
  return numberFromText(text)
}
