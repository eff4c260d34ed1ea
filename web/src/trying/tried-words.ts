/** What somebody's own values come to, in the words of a slip. */
import type { LinkedGate } from '@dime-gate/contract/slip'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { tryOut } from '../bench/trial'
import { type SlipWords, trialTeller } from '../slip/slip-words'

/** @param typed by input, as it was typed @returns null where the gate cannot decide */
export function triedWords({ gate, feeding, asOf }: LinkedGate, typed: Readonly<Record<string, string>>): SlipWords | null {
  const trial = tryOut({ gate, feeding }, typed, asOf)
  if (!trial) return null
  const { status, outcomes } = trial.why.decision
  const given = gate.outcomes.map((_, at) => (outcomes[at] === undefined || outcomes[at] === null ? null : textOfValue(outcomes[at])))
  return { ...trialTeller({ gate, asOf })(trial, { status, given, byHand: null }), who: [{ name: '', value: 'Your values' }], sentence: '', file: '' }
}
