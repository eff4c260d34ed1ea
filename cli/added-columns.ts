/** What `apply` writes behind a table's own columns. */
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { NONE } from '@dime-gate/core/rule/rules'
import { isLiteral } from '@dime-gate/interchange/dmn/model-from-gates'
import { fileTrouble } from './command-error'
import type { DecidedRecords } from './decide-records'
import type { GateFile } from './read-gates'
import { whyText } from './why-text'

export interface AddedColumn {
  header: string
  text(decided: DecidedRecords, at: number): string
}

/**
 * One column an outcome, then for each gate its status and rule: `gate status` where there is one gate, `NAME status`
 * where there are several. A rule is told by its number, from 1; for a scale that is the band, lowest first.
 * Decisions of a DMN file that are an expression have no rules, and no such columns.
 */
export function addedColumns({ kind }: GateFile, gates: readonly ReadyGate[], withWhy: boolean): AddedColumn[] {
  const isAlone = gates.length === 1
  const outcomes = gates.flatMap(({ gate }, index) => gate.outcomes.map(({ name }, outcome): AddedColumn => {
    const ofDecision = gate.outcomes.length === 1 ? gate.name : `${gate.name}.${name}`
    return { header: kind === 'document' ? name : ofDecision, text: ({ results }, at) => results[index]!.outcomes[outcome]![at]! }
  }))
  const rest = gates.flatMap(({ gate }, index): AddedColumn[] => {
    if (kind === 'dmn' && isLiteral(gate)) return []
    const name = isAlone ? 'gate' : gate.name
    const columns: AddedColumn[] = [
      { header: `${name} status`, text: ({ results }, at) => results[index]!.statuses[at]! },
      { header: `${name} rule`, text: ({ results }, at) => ruleText(results[index]!.rules[at]!) },
    ]
    return withWhy ? [...columns, { header: `${name} why`, text: ({ results }, at) => whyText(results[index]!.why(at)) }] : columns
  })
  return [...outcomes, ...rest]
}

function ruleText(rule: number): string {
  return rule === NONE ? '' : String(rule + 1)
}

/** @throws CommandError where a column would be there twice */
export function checkHeaders(headers: readonly string[], added: readonly AddedColumn[], file: string): void {
  const seen = new Set(headers.map((header) => header.trim()))
  for (const { header } of added) {
    const at = headers.findIndex((one) => one.trim() === header)
    if (at >= 0) throw fileTrouble(file, `The table already has a column “${header}”, which is what the gate writes. Rename the column.`, { line: 1, column: at + 1 })
    if (seen.has(header)) throw fileTrouble(file, `Two results would both be written as “${header}”. Choose one decision with --decision.`)
    seen.add(header)
  }
}
