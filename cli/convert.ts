/** `convert`: a gate in another format. */
import type { Gate } from '@dime-gate/core/gate/document'
import type { DateValue } from '@dime-gate/core/value/value'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { GateError } from '@dime-gate/interchange/gate-error'
import { gateToFormula } from '@dime-gate/interchange/openformula/gate-to-formula'
import { gateToSql } from '@dime-gate/interchange/sql/gate-to-sql'
import { bindingsFrom } from './bind-columns'
import { fileTrouble } from './command-error'
import { outputTo } from './output-file'
import { chosenGates, type GateFile, readGateFile } from './read-gates'

export const FORMATS = ['dmn', 'sql', 'openformula', 'json'] as const

export interface ConvertOptions {
  gate: string
  to: (typeof FORMATS)[number]
  out: string
  outcome?: string
  asOf?: DateValue
  decision?: string
  bind: string[]
}

export async function convert(options: ConvertOptions): Promise<void> {
  const file = await readGateFile(options.gate)
  const text = converted(file, options)
  const output = await outputTo(options.out)
  await output.write(text)
  await output.finish()
}

function converted(file: GateFile, options: ConvertOptions): string {
  const gates = chosenGates(file, options.decision, undefined).map(({ gate }) => gate)
  const library = { conditions: file.library.conditions, gates }
  try {
    switch (options.to) {
      case 'dmn':
        return writeDmn(library)
      case 'json':
        return `${JSON.stringify(gates.length === 1 && library.conditions.length === 0 ? gates[0] : library, null, 2)}\n`
      case 'sql':
        return `${gateToSql(library, asked(gates, options), options.outcome, { columns: bindingsFrom(options.bind), today: options.asOf ?? null })}\n`
      case 'openformula':
        return `${gateToFormula(library, asked(gates, options), options.outcome, options.asOf ?? null)}\n`
    }
  } catch (error) {
    if (error instanceof GateError) throw fileTrouble(options.gate, error.message)
    throw error
  }
}

/** The one gate that is written: the one that was asked for, or the only one. */
function asked(gates: readonly Gate[], { decision, to }: ConvertOptions): string {
  if (decision !== undefined) return decision
  const [only, ...others] = gates
  if (others.length > 0) throw new GateError(`There are several gates: ${gates.map(({ name }) => name).join(', ')}. Say with --decision which one becomes ${to === 'sql' ? 'SQL' : 'a formula'}.`)
  return only!.name
}
