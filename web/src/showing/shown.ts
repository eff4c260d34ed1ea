/** A gate in the languages of other places, ready to be taken there. */
import { type BoundColumns, columnsBound } from '@dime-gate/contract/binding'
import type { Question } from '@dime-gate/contract/question'
import type { Table } from '@dime-gate/contract/table'
import type { DateValue } from '@dime-gate/core/value/value'
import { writeDmn } from '@dime-gate/interchange/dmn/dmn'
import { gateToFeel } from '@dime-gate/interchange/feel/gate-to-feel'
import { GateError } from '@dime-gate/interchange/gate-error'
import { gateToFormula } from '@dime-gate/interchange/openformula/gate-to-formula'
import { gateToSql } from '@dime-gate/interchange/sql/gate-to-sql'
import { identifier } from '@dime-gate/interchange/sql/sql-text'
import { httpCall } from './http-call'
import { plainWords } from './plain-words'

/** @property remark what whoever takes it there has to know */
export const FORMATS = [
  { name: 'words', words: 'Plain words', file: 'txt', remark: '' },
  { name: 'sql', words: 'SQL', file: 'sql', remark: 'On a table with columns of these names. Records that wait for a value, and those that no rule takes, get null.' },
  { name: 'formula', words: 'Formula', file: 'txt', remark: 'OpenFormula, over cells named as the inputs are. Records that get no label get an empty text.' },
  { name: 'feel', words: 'FEEL', file: 'feel', remark: 'FEEL has no word for a record that waits: where a value is blank, what hangs on it counts as not true.' },
  { name: 'dmn', words: 'DMN', file: 'dmn', remark: 'DMN 1.5, with the gates that feed it. Brought in here again it is the very same gate.' },
  { name: 'json', words: 'JSON', file: 'json', remark: 'The gate’s own document, as the API and the command line take it.' },
  { name: 'http', words: 'HTTP', file: 'sh', remark: 'Labels one record, or up to a thousand at once, by the version that was set last. /api/v1/openapi.json describes all that can be asked.' },
] as const
export type Format = (typeof FORMATS)[number]['name']

export interface Shown {
  question: Pick<Question, 'gate' | 'inputs' | 'feeding'>
  table: Pick<Table, 'name' | 'columns'>
  /** What `today()` is. */
  today: DateValue
  /** Where it is asked over HTTP; version 0 where none was set. */
  call: { id: number; version: number; origin: string }
}

/** @param outcome one of the gate's, where a format says one at a time. @returns the text, or why there is none */
export function shownAs(format: Format, { question, table, today, call }: Shown, outcome: string): { text: string } | { trouble: string } {
  const { gate, feeding } = question
  const library = { conditions: [], gates: [...feeding.map((one) => one.gate), gate] }
  try {
    switch (format) {
      case 'words':
        return { text: [...feeding.map((one) => one.gate), gate].toReversed().map(plainWords).join('\n') }
      case 'sql': {
        const columns = columnNames(question, table)
        if ('quarrel' in columns) return { trouble: `Two gates look at “${columns.quarrel}”, and each at another column. Write them one by one.` }
        return { text: `SELECT *,\n  ${gateToSql(library, gate.name, outcome, { columns: columns.names, today }).replaceAll('\n', '\n  ')} AS ${identifier(outcome)}\nFROM ${identifier(table.name)}\n` }
      }
      case 'formula':
        return { text: `${gateToFormula(library, gate.name, outcome, today)}\n` }
      case 'feel':
        return { text: `${gateToFeel(library, gate.name, outcome)}\n` }
      case 'dmn':
        return { text: writeDmn(library) }
      case 'http':
        return call.version === 0 ? { trouble: 'Only versions are asked over HTTP, so that an answer can be repeated. Set one first.' } : { text: httpCall(question, call.id, call.version, call.origin) }
      case 'json':
        return { text: `${JSON.stringify(library.gates.length === 1 ? gate : library, null, 2)}\n` }
    }
  } catch (error) {
    if (error instanceof GateError) return { trouble: error.message }
    throw error
  }
}

/** By input what its columns are called in the table. */
function columnNames({ gate, inputs, feeding }: Shown['question'], { columns }: Shown['table']): { names: Map<string, string[]> } | { quarrel: string } {
  const names = new Map<string, string[]>()
  for (const one of [...feeding, { gate, inputs }]) {
    for (const { name } of one.gate.inputs) {
      const bound: BoundColumns | undefined = one.inputs[name]
      if (!bound) continue
      const called = columnsBound(bound).map((id) => columns.find((column) => column.id === id)?.name ?? name)
      const before = names.get(name)
      if (before && before.join('\n') !== called.join('\n')) return { quarrel: name }
      names.set(name, called)
    }
  }
  return { names }
}
