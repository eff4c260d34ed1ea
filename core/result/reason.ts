/** Why someone should look at a record, as data; words are put to it where it is shown. */
import type { ReadyGate } from '../bulk/decide-gates'
import { decideFacts, testVerdict } from '../decide/decide-record'
import type { Facts } from '../decide/facts'
import { TRUE, verdictOf } from '../decide/verdict'
import { type Bound, isInside } from '../gate/interval'
import type { Condition } from '../rule/condition'
import type { Status } from '../rule/rules'
import { type Decimal, plain } from '../value/number'
import { isNumber } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Asked } from './edges'
import type { EdgeSide } from './tray'

export type Reason =
  | { kind: 'unreadable'; input: string; text: string }
  /** Values of these inputs would settle it. */
  | { kind: 'held'; inputs: string[] }
  | { kind: 'contested' }
  | { kind: 'unplaced' }
  | { kind: 'off the scale'; input: string; end: 'floor' | 'ceiling'; at: string }
  | { kind: 'outside'; input: string; value: string }
  /** @property of an input, or an expression's text */
  | { kind: 'edge'; of: string; at: string; side: EdgeSide }
  /** It lands elsewhere than in the run before. @property from the label, or what became of it where it got none */
  | { kind: 'changed'; from: string }
  /** It meets a highlight that stands for exceptions. */
  | { kind: 'highlighted'; name: string }

/** Whether a condition is true for one record, by its facts alone. */
export function isTrueFor({ lowered }: ReadyGate, facts: Facts): (condition: Condition) => boolean {
  return (condition) => verdictOf(condition, (test) => testVerdict(lowered, test, facts)) === TRUE
}

/** What weighs most comes first. @param unreadable texts by input @param isTrue whether a condition is true for the record */
export function reasonsOf(ready: ReadyGate, asked: readonly Asked[], facts: Facts, status: Status, unreadable: ReadonlyMap<string, string>, isTrue = isTrueFor(ready, facts)): Reason[] {
  const reasons = [...unreadable].map(([input, text]): Reason => ({ kind: 'unreadable', input, text }))
  if (status === 'held') {
    const inputs = decideFacts(ready.lowered, facts).missing.filter((input) => !unreadable.has(input))
    if (inputs.length > 0) reasons.push({ kind: 'held', inputs })
  }
  if (status === 'contested') reasons.push({ kind: 'contested' })
  if (status === 'unplaced') reasons.push(beyondEnd(ready, facts) ?? { kind: 'unplaced' })
  for (const { of, edges, outside } of asked) {
    if (outside && isTrue(outside)) reasons.push({ kind: 'outside', input: of, value: textOfValue(facts.value(of)) })
    for (const { at, sides } of edges) {
      for (const [side, condition] of Object.entries(sides) as [EdgeSide, Condition | null][]) if (condition && isTrue(condition)) reasons.push({ kind: 'edge', of, at, side })
    }
  }
  return reasons
}

function beyondEnd({ gate }: ReadyGate, facts: Facts): Reason | null {
  if (gate.form !== 'scale') return null
  const { on, floor, ceiling } = gate
  const value = facts.value(on)
  if (!isNumber(value)) return null
  const isBeyond = (bound: Bound | null, sides: (bound: Bound) => { low: Bound | null; high: Bound | null }) => bound && !isInside(plain(value as Decimal), sides(bound))
  if (isBeyond(floor, (low) => ({ low, high: null }))) return { kind: 'off the scale', input: on, end: 'floor', at: floor!.at }
  return isBeyond(ceiling, (high) => ({ low: null, high })) ? { kind: 'off the scale', input: on, end: 'ceiling', at: ceiling!.at } : null
}
