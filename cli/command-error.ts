/** What a person did wrong, or what is wrong with a file, in one message; the command ends with 2. */
import type { Place } from '@dime-gate/interchange/source-problem'

export class CommandError extends Error {}

/** @param place where in the file, as far as it is known */
export function fileTrouble(file: string, message: string, place: { line: number | null; column: number | null } | Place = { line: null, column: null }): CommandError {
  const where = [file === '-' ? 'standard input' : file, ...(place.line === null ? [] : [`line ${place.line}`]), ...(place.column === null ? [] : [`column ${place.column}`])].join(', ')
  return new CommandError(`${where}: ${message}`)
}
