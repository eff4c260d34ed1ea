/** `convert`: a gate in another format. */
import type { DateValue } from '@dime-gate/core/value/value'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { GateError } from '@dime-gate/interchange/gate-error'
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
      case 'sql': case 'openformula':
        throw new GateError('not yet')
    }
  } catch (error) {
    if (error instanceof GateError) throw fileTrouble(options.gate, error.message)
    throw error
  }
}
