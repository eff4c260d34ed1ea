/** What a set of true rules comes to, by each hit policy (DMN 1.5 clause 8.2.9). */
import { areEqual } from '../value/compare'
import { Decimal } from '../value/number'
import { isOpen, OPEN, type Possible } from '../expression/open'
import { isNumber, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { HitPolicy, OutcomeColumn } from '../gate/document'
import { NONE, type Status } from '../rule/rules'

export interface Hit {
  status: Exclude<Status, 'held'>
  /** The rule that decided; the first of them where the policy gathers several; NONE where none did. */
  rule: number
  /** One an outcome column; empty where there is none. */
  outcomes: Possible[]
}

/** The parts of a gate that a hit policy asks for. */
export interface Hittable {
  hitPolicy: HitPolicy
  columns: readonly OutcomeColumn[]
  outcomesOf(rule: number): Possible[]
  otherwise(): Possible[] | null
}

/** @param rules the places of the true rules, ascending */
export function hit(gate: Hittable, rules: readonly number[]): Hit {
  const [first] = rules
  if (first === undefined) {
    const otherwise = gate.otherwise()
    return otherwise ? { status: 'otherwise', rule: NONE, outcomes: otherwise } : { status: 'unplaced', rule: NONE, outcomes: [] }
  }
  const labelled = (rule: number, outcomes: Possible[]): Hit => ({ status: 'labelled', rule, outcomes })
  const byColumn = () => {
    const each = rules.map((rule) => gate.outcomesOf(rule))
    return gate.columns.map((_, column) => each.map((outcomes) => outcomes[column]!))
  }
  const lists = (columns: readonly (readonly Possible[])[]) => columns.map((values): Possible => (values.some(isOpen) ? OPEN : (values as readonly Value[])))
  const isAnyOpen = () => rules.some((rule) => gate.outcomesOf(rule).some(isOpen))
  switch (gate.hitPolicy) {
    case 'first':
      return labelled(first, gate.outcomesOf(first))
    case 'unique':
    case 'any': {
      const outcomes = gate.outcomesOf(first)
      const agree = rules.every((rule) => areSame(gate.outcomesOf(rule), outcomes))
      return agree ? labelled(first, outcomes) : { status: 'contested', rule: NONE, outcomes: [] }
    }
    case 'priority': {
      if (rules.length > 1 && isAnyOpen()) return labelled(first, gate.columns.map(() => OPEN))
      const [best] = rules.toSorted((a, b) => comparePriority(gate, a, b))
      return labelled(best!, gate.outcomesOf(best!))
    }
    case 'output order': {
      if (isAnyOpen()) return labelled(first, gate.columns.map(() => OPEN))
      const sorted = rules.toSorted((a, b) => comparePriority(gate, a, b)).map((rule) => gate.outcomesOf(rule))
      return labelled(first, lists(gate.columns.map((_, column) => sorted.map((outcomes) => outcomes[column]!))))
    }
    case 'rule order':
    case 'collect':
      return labelled(first, lists(byColumn()))
    case 'collect count':
      return labelled(first, byColumn().map((values) => new Decimal(values.length)))
    case 'collect sum':
    case 'collect min':
    case 'collect max':
      return labelled(first, byColumn().map((values) => aggregate(gate.hitPolicy, values)))
  }
}

/** What is open is like nothing, not even itself. */
function areSame(a: readonly Possible[], b: readonly Possible[]): boolean {
  return a.length === b.length && a.every((value, at) => !isOpen(value) && !isOpen(b[at]) && areEqual(value, b[at] as Value) === true)
}

/** Whether all that it gives is known. */
export function isSettled({ outcomes }: Hit): boolean {
  return !outcomes.some(isOpen)
}

export function areSameHit(a: Hit, b: Hit): boolean {
  const isNone = (hit: Hit) => hit.status === 'unplaced' || hit.status === 'contested'
  return isNone(a) || isNone(b) ? a.status === b.status : areSame(a.outcomes, b.outcomes)
}

/** By the order of the outcomes' values, the first column first; a value that is not listed comes last. */
function comparePriority(gate: Hittable, a: number, b: number): number {
  const [left, right] = [gate.outcomesOf(a), gate.outcomesOf(b)]
  for (const [column, { labels }] of gate.columns.entries()) {
    const place = (value: Possible) => {
      const at = labels.findIndex((label) => label.value === textOfValue(value as Value))
      return at < 0 ? labels.length : at
    }
    const order = place(left[column]!) - place(right[column]!)
    if (order !== 0) return order
  }
  return a - b
}

function aggregate(policy: HitPolicy, values: readonly Possible[]): Possible {
  if (values.some(isOpen)) return OPEN
  if (!(values as readonly Value[]).every(isNumber)) return null
  const numbers = values as readonly Decimal[]
  if (policy === 'collect sum') return numbers.reduce((sum, number) => sum.plus(number), new Decimal(0))
  return numbers.reduce((best, number) => ((policy === 'collect min' ? number.lt(best) : number.gt(best)) ? number : best))
}
