/** A record as lists tell it: what it got, and why someone should look at it. */
import type { Input } from '../gate/document'
import { isOfOneRule, NONE, type Status } from '../rule/rules'
import { textOfValue } from '../value/value-text'
import type { Reason } from './reason'
import type { Result } from './result'
import { COMPUTED } from './tray'

export interface ListedRecord {
  record: number
  status: Status
  rule: number
  /** What it got; null where it got nothing. */
  label: string | null
  reasons: Reason[]
  /** By computed input (see `computedInputs`) its value; null where it came to nothing. */
  computed: (string | null)[]
  /** The highlights that it meets, by their places. */
  highlights: number[]
}

/** @param at its place in the result @param record its number */
export function listedAt(result: Result, at: number, record: number, highlights: number[] = []): ListedRecord {
  const { status, rule } = result.decisions.at(at)
  const seen = result.seen(at)
  return { record, status, rule, label: labelAt(result, at), reasons: result.reasons(at), computed: computedInputs(result.ready.gate.inputs).map(({ name }) => seen(name)), highlights }
}

/** What a record got; null where it got nothing. @param at its place in the result */
export function labelAt(result: Result, at: number): string | null {
  const { status, rule } = result.decisions.at(at)
  if (status !== 'labelled' && status !== 'otherwise') return null
  const { lowered } = result.ready
  const entry = (rule === NONE ? lowered.otherwise! : lowered.rules[rule]!.entries)[0]!
  if ('value' in entry && isOfOneRule(lowered)) return textOfValue(entry.value)
  const [label] = result.why(at).decision.outcomes
  return label === undefined ? COMPUTED : textOfValue(label)
}

/** The inputs that no column holds: figures, and what other gates gave. */
export function computedInputs(inputs: readonly Input[]): Input[] {
  return inputs.filter(({ source }) => source.kind !== 'given')
}
