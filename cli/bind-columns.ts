/** Which column of a table each input of the gates looks at. */
import { nearestName } from '@dime-gate/core/expression/names'
import type { ReadyGate } from '@dime-gate/core/bulk/decide-gates'
import { usedInputs } from '@dime-gate/core/rule/used-inputs'
import { readHeader } from '@dime-gate/core/table/suggest-column'
import { CommandError, fileTrouble } from './command-error'

/** By input, the places of its columns: one, or several for a column set. */
export type Binding = ReadonlyMap<string, number[]>

/** What was asked for by hand: `INPUT=COLUMN`, repeated for the members of a column set. */
export function bindingsFrom(texts: readonly string[]): Map<string, string[]> {
  const asked = new Map<string, string[]>()
  for (const text of texts) {
    const at = text.indexOf('=')
    if (at < 1 || at === text.length - 1) throw new CommandError(`--bind ${text}: Write INPUT=COLUMN, as in --bind "Decay=Decay (%)".`)
    const input = text.slice(0, at).trim()
    asked.set(input, [...(asked.get(input) ?? []), text.slice(at + 1).trim()])
  }
  return asked
}

/**
 * An input takes the column of its name, or the one whose header is its name and a unit, as in `Decay (%)`.
 * @param headers as written
 * @throws CommandError where a needed input has no column, or two that it could mean
 */
export function bindColumns(gates: readonly ReadyGate[], headers: readonly string[], asked: ReadonlyMap<string, string[]>, file: string): Binding {
  const written = headers.map((header) => header.trim().normalize('NFC'))
  const names = headers.map((header) => readHeader(header).name)
  const binding = new Map<string, number[]>()
  const find = (column: string, input: string): number => {
    for (const known of [written, names]) {
      const places = known.flatMap((name, at) => (name === column ? [at] : []))
      if (places.length > 1) throw fileTrouble(file, `Columns ${places[0]! + 1} and ${places[1]! + 1} could both be “${input}”. Rename one, or choose with --bind.`, { line: 1, column: places[1]! + 1 })
      if (places.length === 1) return places[0]!
    }
    const nearest = nearestName(column, names)
    throw fileTrouble(file, `No column is named “${column}”, which the gate looks at.${nearest ? ` Did you mean “${nearest}”? Choose it with --bind "${input}=${nearest}".` : ` There are: ${names.join(', ')}.`}`, { line: 1, column: null })
  }
  for (const { lowered } of gates) {
    const used = usedInputs(lowered)
    for (const { name, source, isSet } of lowered.inputs.values()) {
      if (source.kind !== 'given' || binding.has(name)) continue
      const columns = asked.get(name)
      if (!columns && !used.has(name)) continue
      if (columns && columns.length > 1 && !isSet) throw new CommandError(`--bind: “${name}” takes one column, not ${columns.length}.`)
      binding.set(name, (columns ?? [name]).map((column) => find(column, name)))
    }
  }
  const stray = [...asked.keys()].find((input) => !binding.has(input))
  if (stray !== undefined) throw new CommandError(`--bind: The gate has no input “${stray}” that takes a column.`)
  return binding
}
