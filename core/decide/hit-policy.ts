/** What a set of true rules comes to, by each hit policy (DMN 1.5 clause 8.2.9). */
import { areEqual } from '../value/compare'
import { Decimal } from '../value/number'
import { isNumber, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { HitPolicy, OutcomeColumn } from '../gate/document'
import { NONE, type Status } from '../rule/rules'

export interface Hit {
  status: Exclude<Status, 'held'>
  /** The rule that decided; the first of them where the policy gathers several; NONE where none did. */
  rule: number
  /** One an outcome column; empty where there is none. */
  outcomes: Value[]
}

/** The parts of a gate that a hit policy asks for. */
export interface Hittable {
  hitPolicy: HitPolicy
  columns: readonly OutcomeColumn[]
  outcomesOf(rule: number): Value[]
  otherwise(): Value[] | null
}

/** @param rules the places of the true rules, ascending */
export function hit(gate: Hittable, rules: readonly number[]): Hit {
  const [first] = rules
  if (first === undefined) {
    const otherwise = gate.otherwise()
    return otherwise ? { status: 'otherwise', rule: NONE, outcomes: otherwise } : { status: 'unplaced', rule: NONE, outcomes: [] }
  }
  const labelled = (rule: number, outcomes: Value[]): Hit => ({ status: 'labelled', rule, outcomes })
  const byColumn = () => {
    const each = rules.map((rule) => gate.outcomesOf(rule))
    return gate.columns.map((_, column) => each.map((outcomes) => outcomes[column]!))
  }
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
      const [best] = rules.toSorted((a, b) => comparePriority(gate, a, b))
      return labelled(best!, gate.outcomesOf(best!))
    }
    case 'output order': {
      const sorted = rules.toSorted((a, b) => comparePriority(gate, a, b)).map((rule) => gate.outcomesOf(rule))
      return labelled(first, gate.columns.map((_, column) => sorted.map((outcomes) => outcomes[column]!)))
    }
    case 'rule order':
    case 'collect':
      return labelled(first, byColumn())
    case 'collect count':
      return labelled(first, byColumn().map((values) => new Decimal(values.length)))
    case 'collect sum':
    case 'collect min':
    case 'collect max':
      return labelled(first, byColumn().map((values) => aggregate(gate.hitPolicy, values)))
  }
}

function areSame(a: readonly Value[], b: readonly Value[]): boolean {
  return a.length === b.length && a.every((value, at) => areEqual(value, b[at]!) === true)
}

export function areSameHit(a: Hit, b: Hit): boolean {
  const isNone = (hit: Hit) => hit.status === 'unplaced' || hit.status === 'contested'
  return isNone(a) || isNone(b) ? a.status === b.status : areSame(a.outcomes, b.outcomes)
}

/** By the order of the outcomes' values, the first column first; a value that is not listed comes last. */
function comparePriority(gate: Hittable, a: number, b: number): number {
  const [left, right] = [gate.outcomesOf(a), gate.outcomesOf(b)]
  for (const [column, { labels }] of gate.columns.entries()) {
    const place = (value: Value) => {
      const at = labels.findIndex((label) => label.value === textOfValue(value))
      return at < 0 ? labels.length : at
    }
    const order = place(left[column]!) - place(right[column]!)
    if (order !== 0) return order
  }
  return a - b
}

function aggregate(policy: HitPolicy, values: readonly Value[]): Value {
  if (!values.every(isNumber)) return null
  const numbers = values as readonly Decimal[]
  if (policy === 'collect sum') return numbers.reduce((sum, number) => sum.plus(number), new Decimal(0))
  return numbers.reduce((best, number) => ((policy === 'collect min' ? number.lt(best) : number.gt(best)) ? number : best))
}
