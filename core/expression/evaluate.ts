/**
 * The value of an expression, in decimals, one node after the other (DMN 1.5 clause 10.3.2.13 and on):
 * the reference that faster ways are held to. Nothing throws; what cannot be computed is null, and noted.
 */
import { combine, negate, type Outcome, type Shortfall } from '../value/arithmetic'
import { calendarDay, dayOfWeek } from '../value/calendar'
import { areEqual, compareValues, isInRange } from '../value/compare'
import { Decimal } from '../value/number'
import { dayTimeDuration, parseTemporal } from '../value/temporal'
import { type DateTimeValue, type DateValue, type DayTimeDuration, type FunctionValue, isList, isNumber, kindOf, type RangeValue, type Value, type YearMonthDuration } from '../value/value'
import { arrangements } from './call'
import { BUILT_IN } from './functions/built-in'
import type { Parameter } from './functions/define'
import { type ComparisonOperator, mentionsTested, type Node, type NodeOf, type Span, TESTED, type Variable } from './tree'
import { typeNamed } from './type'

/** Something on the way that came to nothing, and why. */
export interface Note {
  span: Span
  shortfall: Shortfall | 'too-much'
}

export interface Scope {
  /** The values of names; null for a name that has none. */
  value(name: string): Value
  /** The date that counts as today. */
  today: DateValue
  /** Is told of everything that came to nothing although its parts had values. */
  note?(note: Note): void
}

/** Steps after which a loop over loops is given up. */
const MOST_STEPS = 200_000

export function evaluate(tree: Node, scope: Scope): Value {
  return new Evaluation(scope.today, scope.note).value(tree, scope.value)
}

const numbers = new WeakMap<Node, Decimal>()

/** The number of a literal, made once. */
function numberOf(node: NodeOf<'number'>): Decimal {
  const known = numbers.get(node)
  if (known) return known
  const number = new Decimal(node.number)
  numbers.set(node, number)
  return number
}

type Lookup = (name: string) => Value

class Evaluation {
  private steps = 0

  constructor(private readonly today: DateValue, private readonly note?: (note: Note) => void) {}

  value(node: Node, lookup: Lookup): Value {
    if (++this.steps > MOST_STEPS) return this.shortfall(node, 'too-much')
    switch (node.kind) {
      case 'number':
        return numberOf(node)
      case 'text':
        return node.text
      case 'boolean':
        return node.value
      case 'null':
        return null
      case 'temporal':
        return parseTemporal(node.text)
      case 'name':
        return lookup(node.name)
      case 'path':
        return this.property(this.value(node.of, lookup), node)
      case 'list':
        return node.items.map((item) => this.value(item, lookup))
      case 'range':
        return this.range(node, lookup)
      case 'negate':
        return this.known([this.value(node.of, lookup)], node, ([value]) => negate(value!))
      case 'arithmetic':
        return this.known([this.value(node.left, lookup), this.value(node.right, lookup)], node, ([left, right]) => combine(node.operator, left!, right!))
      case 'comparison':
        return compare(node.operator, this.value(node.left, lookup), this.value(node.right, lookup))
      case 'between': {
        const value = this.value(node.of, lookup)
        return and([compare('>=', value, this.value(node.low, lookup)), compare('<=', value, this.value(node.high, lookup))])
      }
      case 'in':
        return this.membership(node, lookup)
      case 'and':
        return and(node.of.map((part) => this.value(part, lookup)))
      case 'or':
        return or(node.of.map((part) => this.value(part, lookup)))
      case 'if':
        // Anything but true takes the second way (DMN 1.5 table 62).
        return this.value(node.condition, lookup) === true ? this.value(node.then, lookup) : this.value(node.otherwise, lookup)
      case 'quantified': {
        const verdicts = this.iterate(node.variables, lookup, (inner) => this.value(node.satisfies, inner))
        return verdicts && (node.quantifier === 'some' ? or(verdicts) : and(verdicts))
      }
      case 'for':
        return this.iterate(node.variables, lookup, (inner) => this.value(node.result, inner))
      case 'filter':
        return this.filter(node, lookup)
      case 'call':
        return this.call(node, lookup)
      case 'function':
        return this.functionValue(node, lookup)
      case 'instance of': {
        const type = typeNamed(node.type)
        const kind = kindOf(this.value(node.of, lookup))
        return type === 'any' ? kind !== 'null' : kind === (typeof type === 'object' && type ? ('list' in type ? 'list' : 'range') : type)
      }
    }
  }

  private shortfall(node: Node, shortfall: Note['shortfall']): null {
    this.note?.({ span: node.span, shortfall })
    return null
  }

  /** Null where a part is null; else what `run` makes of the parts. */
  private known(parts: Value[], node: Node, run: (parts: Value[]) => Outcome): Value {
    return parts.includes(null) ? null : this.settle(run(parts), node)
  }

  private settle(outcome: Outcome, node: Node): Value {
    return 'value' in outcome ? outcome.value : this.shortfall(node, outcome.shortfall)
  }

  private range(node: NodeOf<'range'>, lookup: Lookup): Value {
    const { lowIncluded, highIncluded } = node
    const [low, high] = [node.low && this.value(node.low, lookup), node.high && this.value(node.high, lookup)]
    if ((node.low && low === null) || (node.high && high === null)) return null
    return { kind: 'range', low, high, lowIncluded, highIncluded }
  }

  private membership({ of, tests }: NodeOf<'in'>, lookup: Lookup): Value {
    const value = this.value(of, lookup)
    const inner: Lookup = (name) => (name === TESTED ? value : lookup(name))
    return or(tests.map((test) => {
      const tested = this.value(test, inner)
      return typeof tested === 'boolean' && mentionsTested(test) ? tested : isMember(value, tested)
    }))
  }

  /** All combinations of what the variables range over; null where one of them is over nothing that can be gone through. */
  private iterate(variables: readonly Variable[], lookup: Lookup, visit: (inner: Lookup) => Value): Value[] | null {
    const [first, ...rest] = variables
    if (!first) return [visit(lookup)]
    const items = this.items(first.over, lookup)
    if (!items) return null
    const results: Value[] = []
    for (const item of items) {
      const inner: Lookup = (name) => (name === first.name ? item : lookup(name))
      const below = this.iterate(rest, inner, visit)
      if (!below || this.steps > MOST_STEPS) return null
      results.push(...below)
    }
    return results
  }

  private items(over: Node, lookup: Lookup): readonly Value[] | null {
    const value = this.value(over, lookup)
    if (value === null) return null
    if (isList(value)) return value
    if (kindOf(value) !== 'range') return [value]
    return wholeNumbers(value as RangeValue) ?? this.shortfall(over, 'too-much')
  }

  private filter(node: NodeOf<'filter'>, lookup: Lookup): Value {
    const of = this.value(node.of, lookup)
    const items = isList(of) ? of : of === null ? [] : [of]
    const within = (item: Value): Lookup => (name) => (name === 'item' ? item : lookup(name))
    if (isPosition(node.by)) {
      const position = this.value(node.by, lookup)
      if (!isNumber(position) || !position.isInteger()) return null
      return items.at(position.isNeg() ? position.toNumber() : position.toNumber() - 1) ?? null
    }
    const verdicts = items.map((item) => this.value(node.by, within(item)))
    const [only] = verdicts
    if (verdicts.length > 0 && isNumber(only!)) return only.isInteger() && !only.isZero() ? items.at(only.isNeg() ? only.toNumber() : only.toNumber() - 1) ?? null : null
    return items.filter((_, at) => verdicts[at] === true)
  }

  private property(of: Value, node: NodeOf<'path'>): Value {
    if (of === null) return null
    const part = propertyOf(of, node.name)
    return part === undefined ? this.shortfall(node, 'wrong-kind') : part
  }

  private functionValue({ parameters, body }: NodeOf<'function'>, lookup: Lookup): FunctionValue {
    return {
      kind: 'function',
      arity: parameters.length,
      apply: (args) => this.value(body, (name) => (parameters.includes(name) ? args[parameters.indexOf(name)]! : lookup(name))),
    }
  }

  private call(node: NodeOf<'call'>, lookup: Lookup): Value {
    const args = node.args.map((arg) => this.value(arg, lookup))
    const builtIn = BUILT_IN.get(node.name)
    let anyBlank = false
    for (const { variant, places } of builtIn ? arrangements(builtIn, args, node.names) : []) {
      const ready: Value[] = []
      const isReady = places.every(({ parameter, args }) => {
        const arg = argumentFor(parameter, args)
        if (arg === undefined) {
          anyBlank ||= args.includes(null)
          return false
        }
        ready.push(...arg)
        return true
      })
      if (!isReady) continue
      const result = variant.run(ready, { today: this.today })
      return isOutcome(result) ? this.settle(result, node) : result
    }
    return anyBlank ? null : this.shortfall(node, 'wrong-kind')
  }
}

function isOutcome(result: Outcome | Value): result is Outcome {
  return typeof result === 'object' && result !== null && ('shortfall' in result || 'value' in result)
}

/** Of the same number whatever the item is, so that it says which place is meant. */
function isPosition(by: Node): boolean {
  return by.kind === 'number' || (by.kind === 'negate' && isPosition(by.of))
}

/** The arguments as the parameter wants them; undefined where they cannot be. */
function argumentFor({ type, isOptional, many }: Parameter, args: readonly Value[]): Value[] | undefined {
  if (many === 'gathered') {
    const [only] = args
    const items = args.length === 1 && isList(only!) ? only : args
    return args.length === 1 && only === null ? undefined : [items]
  }
  if (args.length === 0) return isOptional ? [null] : undefined
  const converted = args.map((arg) => convert(arg, type))
  return converted.includes(undefined) ? undefined : (converted as Value[])
}

/** DMN 1.5 clause 10.3.2.9.4: a list of one stands for what it holds, a value for the list of it. */
function convert(value: Value, type: Parameter['type']): Value | undefined {
  if (type === 'any') return value
  if (value === null) return undefined
  const kind = kindOf(value)
  if (typeof type === 'object') return 'list' in type ? (isList(value) ? value : [value]) : kind === 'range' ? value : undefined
  if (kind === type) return value
  return isList(value) && value.length === 1 && kindOf(value[0]!) === type ? value[0] : undefined
}

function isMember(value: Value, tested: Value): Value {
  if (tested !== null && kindOf(tested) === 'range' && kindOf(value) !== 'range') return isInRange(value, tested as RangeValue)
  if (isList(tested) && !isList(value)) return or(tested.map((item) => isMember(value, item)))
  return compare('=', value, tested)
}

function compare(operator: ComparisonOperator, left: Value, right: Value): boolean | null {
  if (operator === '=' || operator === '!=') {
    const equal = areEqual(left, right)
    return equal === null ? null : equal === (operator === '=')
  }
  const order = compareValues(left, right)
  if (order === null) return null
  return operator === '<' ? order < 0 : operator === '<=' ? order <= 0 : operator === '>' ? order > 0 : order >= 0
}

/** DMN 1.5 tables 49 and 50: what is neither true nor false counts as unknown. */
function and(verdicts: readonly Value[]): boolean | null {
  if (verdicts.includes(false)) return false
  return verdicts.every((verdict) => verdict === true) ? true : null
}

function or(verdicts: readonly Value[]): boolean | null {
  if (verdicts.includes(true)) return true
  return verdicts.every((verdict) => verdict === false) ? false : null
}

const MOST_ITEMS = 10_000

function wholeNumbers({ low, high, lowIncluded, highIncluded }: RangeValue): Value[] | null {
  if (!isNumber(low) || !isNumber(high) || !low.isInteger() || !high.isInteger()) return null
  const sign = low.lte(high) ? 1 : -1
  const from = low.plus(lowIncluded ? 0 : sign)
  const count = high.minus(highIncluded ? 0 : sign).minus(from).times(sign).plus(1)
  return count.gt(MOST_ITEMS) ? null : Array.from({ length: Math.max(0, count.toNumber()) }, (_, at) => from.plus(at * sign))
}

/** DMN 1.5 table 66. */
function propertyOf(of: Value, name: string): Value | undefined {
  const kind = kindOf(of)
  const number = (value: number) => new Decimal(value)
  if (kind === 'date' || kind === 'date and time') {
    const { day } = of as DateValue
    const parts = { ...calendarDay(day), weekday: dayOfWeek(day) }
    if (name in parts) return number(parts[name as keyof typeof parts])
  }
  if (kind === 'time' || kind === 'date and time') {
    const { nanos, offset } = of as DateTimeValue
    const seconds = Math.floor(nanos / 1e9)
    switch (name) {
      case 'hour': return number(Math.floor(seconds / 3600))
      case 'minute': return number(Math.floor(seconds / 60) % 60)
      case 'second': return number(seconds % 60)
      case 'time offset': return offset === null ? null : dayTimeDuration(number(offset))
    }
  }
  if (kind === 'days and time duration') {
    const { seconds } = of as DayTimeDuration
    switch (name) {
      case 'days': return seconds.divToInt(86_400)
      case 'hours': return seconds.divToInt(3600).mod(24)
      case 'minutes': return seconds.divToInt(60).mod(60)
      case 'seconds': return seconds.mod(60)
    }
  }
  if (kind === 'years and months duration') {
    const { months } = of as YearMonthDuration
    if (name === 'years') return number(Math.trunc(months / 12))
    if (name === 'months') return number(months % 12)
  }
  if (kind === 'range') {
    const range = of as RangeValue
    const parts: Record<string, Value> = { start: range.low, end: range.high, 'start included': range.lowIncluded, 'end included': range.highIncluded }
    return parts[name]
  }
  return undefined
}
