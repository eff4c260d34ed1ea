/**
 * The value of an expression, in decimals, one node after the other (DMN 1.5 clause 10.3.2.13 and on):
 * the reference that faster ways are held to. Nothing throws; what cannot be computed is null, and noted.
 *
 * A name can be open (see `Open`): a blank whose value would settle something. Whatever does not depend on it has its
 * value all the same; what does is open too. Only where an expression asks for blanks itself is the blank what it is.
 */
import { combine, negate, type Outcome, type Shortfall } from '../value/arithmetic'
import { areEqual, compareValues } from '../value/compare'
import { Decimal } from '../value/number'
import { parseTemporal } from '../value/temporal'
import { type DateValue, type FunctionValue, isList, isNumber, kindOf, type RangeValue, type Value } from '../value/value'
import { argumentFor, plansOf } from './arguments'
import type { CallContext } from './functions/define'
import { LONGEST_TEXT } from './functions/texts'
import { isInstance } from './instance'
import { isPosition, itemAt, wholeNumbers } from './items'
import { allOf, anyOf, compareOpen, holdsOpen, isOpen, type Open, ofTruth, oneOf, OPEN, type Possible, truthOf } from './open'
import { openCall } from './open-call'
import { propertyOf } from './properties'
import { LETTERS_A_STEP, sizeOf } from './size'
import { asksAboutBlanks, type ComparisonOperator, mentionsTested, MIRRORED, type Node, type NodeOf, PARTIAL, type Span, TESTED, type Variable } from './tree'
import { TRUE } from './truth'
import { typeNamed } from './type'

/** Something on the way that came to nothing, and why. */
export interface Note {
  span: Span
  shortfall: Shortfall | 'too-much'
}

export interface Scope {
  /** The values of names; null for a name that has none. */
  value(name: string): Possible
  /** The date that counts as today. */
  today: DateValue
  /** Is told of everything that came to nothing although its parts had values. */
  note?(note: Note): void
  /** Whether what comes to nothing, as a division by zero, is open as a blank is, instead of null. */
  shortfallIsOpen?: boolean
}

/**
 * What one evaluation may cost: a step for each node, and one for each item of every list and every few letters of
 * every text that is made or gone through. It bounds the time, and the room, of anything that can be written down.
 */
const MOST_STEPS = 200_000
/** Steps that a root, a logarithm or a power costs: as long as so many others take. */
const STEPS_OF_A_POWER = 150
const POWERS: ReadonlySet<string> = new Set(['sqrt', 'log', 'exp', 'stddev'])

/** The value, where nothing can be open. */
export function evaluate(tree: Node, scope: Scope): Value {
  const value = evaluateOpen(tree, scope)
  return isOpen(value) ? null : value
}

/** The value, or that it is open. */
export function evaluateOpen(tree: Node, { value, ...rest }: Scope): Possible {
  const evaluation = new Evaluation(rest)
  const found = evaluation.value(tree, value)
  // What was left half done says nothing.
  if (evaluation.isSpent) return rest.shortfallIsOpen ? OPEN : null
  return isList(found as Value) && holdsOpen(found) ? OPEN : found
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

const temporals = new WeakMap<Node, ReturnType<typeof parseTemporal>>()

/** The date, time or length of time of a literal, read once: a list may have thousands of them. */
function temporalOf(node: NodeOf<'temporal'>): ReturnType<typeof parseTemporal> {
  const known = temporals.get(node)
  if (known !== undefined) return known
  const temporal = parseTemporal(node.text)
  temporals.set(node, temporal)
  return temporal
}

type Lookup = (name: string) => Possible

class Evaluation {
  private left = MOST_STEPS
  private readonly context: CallContext
  private shortfallIsOpen: boolean

  constructor(private readonly scope: Omit<Scope, 'value'>) {
    this.context = { today: scope.today }
    this.shortfallIsOpen = scope.shortfallIsOpen ?? false
  }

  get isSpent(): boolean {
    return this.left < 0
  }

  value(node: Node, lookup: Lookup): Possible {
    if (--this.left < 0) return this.shortfall(node, 'too-much')
    if (asksAboutBlanks(node)) return this.asked(node, lookup)
    return this.plainValue(node, lookup)
  }

  private plainValue(node: Node, lookup: Lookup): Possible {
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
        return temporalOf(node)
      case 'name':
        return lookup(node.name)
      case 'path':
        return this.property(this.value(node.of, lookup), node)
      case 'list':
        return this.made(node.items.map((item) => this.value(item, lookup)) as Value[], node)
      case 'range':
        return this.range(node, lookup)
      case 'negate':
        return this.known([this.value(node.of, lookup)], node, ([value]) => negate(value!))
      case 'arithmetic':
        if (node.operator === '**') this.left -= STEPS_OF_A_POWER
        return this.known([this.value(node.left, lookup), this.value(node.right, lookup)], node, ([left, right]) => combine(node.operator, left!, right!))
      case 'comparison':
        return this.compare(node.operator, this.value(node.left, lookup), this.value(node.right, lookup))
      case 'between': {
        const value = this.value(node.of, lookup)
        return allOf([this.compare('>=', value, this.value(node.low, lookup)), this.compare('<=', value, this.value(node.high, lookup))])
      }
      case 'in':
        return this.membership(node, lookup)
      case 'and':
        return this.together(node.of, lookup, false)
      case 'or':
        return this.together(node.of, lookup, true)
      case 'if':
        return this.choice(node, lookup)
      case 'quantified': {
        const verdicts = this.iterate(node.variables, lookup, (inner) => this.value(node.satisfies, inner))
        return isOpen(verdicts) ? verdicts : verdicts && (node.quantifier === 'some' ? anyOf(verdicts) : allOf(verdicts))
      }
      case 'for': {
        const results: Value[] = []
        const soFar = () => this.made(results.slice(), node)
        const visit = (inner: Lookup) => results.push(this.value(node.result, (name) => (name === PARTIAL ? soFar() : inner(name))) as Value)
        const visited = this.iterate(node.variables, lookup, visit)
        return isOpen(visited) ? visited : visited && this.made(results, node)
      }
      case 'filter':
        return this.filter(node, lookup)
      case 'call':
        return this.call(node, lookup)
      case 'function':
        return this.functionValue(node, lookup)
      case 'instance of':
        return isInstance(this.value(node.of, lookup) as Value, typeNamed(node.type))
    }
  }

  /** With blanks for what they are. */
  private asked(node: Node, lookup: Lookup): Possible {
    const was = this.shortfallIsOpen
    this.shortfallIsOpen = false
    const value = this.plainValue(node, (name) => {
      const value = lookup(name)
      return isOpen(value) ? null : isList(value) && holdsOpen(value) ? value.map((item) => (isOpen(item) ? null : item)) : value
    })
    this.shortfallIsOpen = was
    return value
  }

  private shortfall(node: Node, shortfall: Note['shortfall']): Possible {
    this.scope.note?.({ span: node.span, shortfall })
    return this.shortfallIsOpen ? OPEN : null
  }

  /** A list or a text that was made, unless it is more than may be. */
  private made(value: Value, node: Node): Possible {
    if (typeof value === 'string') {
      this.left -= value.length / LETTERS_A_STEP
      return value.length > LONGEST_TEXT || this.left < 0 ? this.shortfall(node, 'too-much') : value
    }
    if (isList(value)) this.left -= sizeOf(value)
    return this.left < 0 ? this.shortfall(node, 'too-much') : value
  }

  /** Open or null where a part is; else what `run` makes of the parts. */
  private known(parts: Possible[], node: Node, run: (parts: Value[]) => Outcome): Possible {
    if (parts.some(isOpen)) return OPEN
    return parts.includes(null) ? null : this.settle(run(parts as Value[]), node)
  }

  private settle(outcome: Outcome, node: Node): Possible {
    return 'value' in outcome ? this.made(outcome.value, node) : this.shortfall(node, outcome.shortfall)
  }

  private compare(operator: ComparisonOperator, left: Possible, right: Possible): boolean | null | Open {
    if (isOpen(left)) return isNumber(right as Value) ? ofTruth(compareOpen(operator, left, right as Decimal)) : OPEN
    if (isOpen(right)) return isNumber(left) ? ofTruth(compareOpen(MIRRORED[operator], right, left)) : OPEN
    if (isList(left) || isList(right)) {
      if (holdsOpen(left) || holdsOpen(right)) return OPEN
      this.left -= sizeOf(left)
    }
    return compareKnown(operator, left, right)
  }

  /** `or`, or with `decisive` false `and`: nothing after what decides it counts. */
  private together(parts: readonly Node[], lookup: Lookup, decisive: boolean): Possible {
    const verdicts: Possible[] = []
    for (const part of parts) {
      const verdict = this.value(part, lookup)
      if (verdict === decisive) return decisive
      verdicts.push(verdict)
    }
    return decisive ? anyOf(verdicts) : allOf(verdicts)
  }

  /** Anything but true takes the second way (DMN 1.5 table 62). */
  private choice({ condition, then, otherwise }: NodeOf<'if'>, lookup: Lookup): Possible {
    const verdict = this.value(condition, lookup)
    const canBeTrue = (truthOf(verdict) & TRUE) !== 0
    if (!isOpen(verdict) || !canBeTrue) return this.value(canBeTrue ? then : otherwise, lookup)
    return oneOf(this.value(then, lookup), this.value(otherwise, lookup), (a, b) => areEqual(a, b) === true)
  }

  private range(node: NodeOf<'range'>, lookup: Lookup): Possible {
    const { lowIncluded, highIncluded } = node
    const [low, high] = [node.low && this.value(node.low, lookup), node.high && this.value(node.high, lookup)]
    if (isOpen(low) || isOpen(high)) return OPEN
    if ((node.low && low === null) || (node.high && high === null)) return null
    return { kind: 'range', low, high, lowIncluded, highIncluded }
  }

  private membership({ of, tests }: NodeOf<'in'>, lookup: Lookup): Possible {
    const value = this.value(of, lookup)
    const inner: Lookup = (name) => (name === TESTED ? value : lookup(name))
    return anyOf(tests.map((test) => {
      if (test.kind === 'range' && (isOpen(value) || value === null || kindOf(value) !== 'range')) return this.within(value, test, inner)
      const tested = this.value(test, inner)
      // What asks something of the value is taken where it is true; and a test that comes to nothing is never taken for the same as a blank.
      if (mentions(test) && (isOpen(tested) || typeof tested === 'boolean')) return tested
      return tested === null && (mentions(test) || isTestItself(test)) ? null : this.isMember(value, tested)
    }))
  }

  private isMember(value: Possible, tested: Possible): Possible {
    if (!isOpen(tested) && tested !== null && kindOf(tested) === 'range' && (isOpen(value) || kindOf(value) !== 'range')) {
      const { low, high, lowIncluded, highIncluded } = tested as RangeValue
      return this.isBetween(value, low, high, lowIncluded, highIncluded)
    }
    if (isOpen(tested) || !isList(tested)) return this.compare('=', value, tested)
    if (!isList(value as Value)) return anyOf(tested.map((item) => this.isMember(value, item)))
    return anyOf([this.compare('=', value, tested), ...tested.filter((item) => isList(item)).map((item) => this.compare('=', value, item))])
  }

  /** Whether a value lies in a range that is written out: one end may tell that it does not, whatever the other is. */
  private within(value: Possible, { low, high, lowIncluded, highIncluded }: NodeOf<'range'>, lookup: Lookup): Possible {
    const [from, to] = [low && this.value(low, lookup), high && this.value(high, lookup)]
    if ((low && from === null) || (high && to === null)) return null
    return this.isBetween(value, from, to, lowIncluded, highIncluded)
  }

  private isBetween(value: Possible, low: Possible, high: Possible, lowIncluded: boolean, highIncluded: boolean): Possible {
    return allOf([...(low === null ? [] : [this.compare(lowIncluded ? '>=' : '>', value, low)]), ...(high === null ? [] : [this.compare(highIncluded ? '<=' : '<', value, high)])])
  }

  /** All combinations of what the variables range over; null where one of them is over nothing that can be gone through. */
  private iterate(variables: readonly Variable[], lookup: Lookup, visit: (inner: Lookup) => Possible | number): Possible[] | null | Open {
    const [first, ...rest] = variables
    if (!first) return [visit(lookup) as Possible]
    const items = this.items(first.over, lookup)
    if (items === null || isOpen(items)) return items
    const results: Possible[] = []
    for (const item of items) {
      const inner: Lookup = (name) => (name === first.name ? item : lookup(name))
      const below = this.iterate(rest, inner, visit)
      if (below === null || isOpen(below)) return below
      if (this.left < 0) return this.shortfall(first.over, 'too-much') as null | Open
      for (const one of below) results.push(one)
    }
    return results
  }

  private items(over: Node, lookup: Lookup): readonly Value[] | null | Open {
    const value = this.value(over, lookup)
    if (value === null || isOpen(value)) return value
    if (isList(value)) return value
    if (kindOf(value) !== 'range') return [value]
    return wholeNumbers(value as RangeValue) ?? (this.shortfall(over, 'too-much') as null | Open)
  }

  private filter(node: NodeOf<'filter'>, lookup: Lookup): Possible {
    const of = this.value(node.of, lookup)
    if (isOpen(of)) return OPEN
    const items = isList(of) ? of : of === null ? [] : [of]
    const within = (item: Value): Lookup => (name) => (name === 'item' ? item : lookup(name))
    if (isPosition(node.by)) return itemAt(items, this.value(node.by, lookup))
    const verdicts = items.map((item) => this.value(node.by, within(item)))
    if (verdicts.some(isOpen)) return OPEN
    if (verdicts.length > 0 && isNumber(verdicts[0] as Value)) return itemAt(items, verdicts[0]!)
    return this.made(items.filter((_, at) => verdicts[at] === true), node)
  }

  private property(of: Possible, node: NodeOf<'path'>): Possible {
    if (of === null || isOpen(of)) return of
    const part = propertyOf(of, node.name)
    return part === undefined ? this.shortfall(node, 'wrong-kind') : part
  }

  private functionValue({ parameters, body }: NodeOf<'function'>, lookup: Lookup): FunctionValue {
    return {
      kind: 'function',
      arity: parameters.length,
      apply: (args) => {
        const value = this.value(body, (name) => (parameters.includes(name) ? args[parameters.indexOf(name)]! : lookup(name)))
        return isOpen(value) ? null : value
      },
    }
  }

  private call(node: NodeOf<'call'>, lookup: Lookup): Possible {
    const args = node.args.map((arg) => this.value(arg, lookup))
    if (args.some(holdsOpen)) {
      const found = openCall(node, args, (value, other) => this.compare('=', value, other))
      if (found !== undefined) return found
    }
    for (const arg of args as Value[]) if (isList(arg) || typeof arg === 'string') this.left -= sizeOf(arg)
    if (POWERS.has(node.name)) this.left -= STEPS_OF_A_POWER
    if (this.left < 0) return this.shortfall(node, 'too-much')
    let anyBlank = false
    for (const { variant, places } of plansOf(node)) {
      const ready: Value[] = []
      const isReady = places.every(({ parameter, args: at }) => {
        const given = at.map((place) => args[place]!) as Value[]
        const arg = argumentFor(parameter, given)
        if (arg === undefined) {
          anyBlank ||= given.includes(null)
          return false
        }
        ready.push(...arg)
        return true
      })
      if (!isReady) continue
      const result = variant.run(ready, this.context)
      if (!isOutcome(result)) return this.made(result, node)
      // What came to nothing by a blank among its items did not fall short by itself.
      const isByBlank = 'shortfall' in result && result.shortfall === 'wrong-kind' && args.some((arg) => isList(arg as Value) && (arg as readonly Value[]).includes(null))
      return isByBlank || ('shortfall' in result && args.includes(null)) ? null : this.settle(result, node)
    }
    return anyBlank ? null : this.shortfall(node, 'wrong-kind')
  }
}

function isOutcome(result: Outcome | Value): result is Outcome {
  return typeof result === 'object' && result !== null && ('shortfall' in result || 'value' in result)
}

/** Whether a test after `in`, or in a cell, is true or false by itself, instead of naming what the value should be. */
function isTestItself({ kind }: Node): boolean {
  return TESTS.has(kind)
}

const TESTS: ReadonlySet<Node['kind']> = new Set(['comparison', 'between', 'in', 'and', 'or', 'quantified', 'instance of', 'range'])

const mentioning = new WeakMap<Node, boolean>()

/** `mentionsTested`, looked up once a node. */
function mentions(test: Node): boolean {
  const known = mentioning.get(test)
  if (known !== undefined) return known
  const found = mentionsTested(test)
  mentioning.set(test, found)
  return found
}

function compareKnown(operator: ComparisonOperator, left: Value, right: Value): boolean | null {
  if (operator === '=' || operator === '!=') {
    const equal = areEqual(left, right)
    return equal === null ? null : equal === (operator === '=')
  }
  const order = compareValues(left, right)
  if (order === null) return null
  return operator === '<' ? order < 0 : operator === '<=' ? order <= 0 : operator === '>' ? order > 0 : order >= 0
}

