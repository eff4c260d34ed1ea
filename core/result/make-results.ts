/** Makes results: of a gate as it is drafted, one change after the other, or of what a run kept. */
import { gatesDecider, type ReadyGate } from '../bulk/decide-gates'
import { AFTER_RULES, codeOf, decisionsOf } from '../bulk/decisions'
import { STATUSES } from '../rule/rules'
import type { DateValue } from '../value/value'
import { Result, type Tables } from './result'

/** @returns of gates, each after those that feed it, the result of the last one */
export function resultMaker(tables: Tables, today: DateValue): (gates: readonly ReadyGate[]) => Result {
  const decide = gatesDecider(tables, today)
  return (gates) => {
    const asked = gates.at(-1)!
    const { decisions, table, decider } = decide(gates).get(asked.gate.name)!
    return new Result(asked, { table, decider, today, gates, tables }, decisions)
  }
}

/** By place the code of its status (see `STATUSES`), and the rule that decided or NONE. */
export interface KeptDecisions {
  status: Uint8Array
  rule: Int32Array
}

/** What a run kept: told as it was made, not decided again. @param tables hold the values that the run saw */
export function keptResult(gates: readonly ReadyGate[], tables: Tables, today: DateValue, { status, rule }: KeptDecisions): Result {
  const asked = gates.at(-1)!
  const { table, decider } = gatesDecider(tables, today)(gates).get(asked.gate.name)!
  const rules = asked.lowered.rules.length
  const codes = Int32Array.from(status, (code, at) => codeOf(STATUSES[code]!, rule[at]!, rules))
  const counts = Array<number>(rules + AFTER_RULES.length).fill(0)
  for (const code of codes) counts[code]!++
  return new Result(asked, { table, decider, today, gates, tables }, decisionsOf(table.length, rules, counts, (at) => codes[at]!))
}
