/** What stands in the way of bringing a file in, as it is decided so far. */
import type { FileLook } from '@dime-gate/contract/table'
import { FileError } from '@dime-gate/interchange/table/problem'
import { checkColumns } from '@dime-gate/interchange/table/settings'

/** In words; null where nothing does. Names may have been mended here since the server looked. */
export function problemOf({ problem, settings: { columns } }: Pick<FileLook, 'problem' | 'settings'>): string | null {
  if (problem && problem.code !== 'same-name') return problem.message
  const unnamed = columns.findIndex(({ name, isLeftOut }) => !isLeftOut && name.trim() === '')
  if (unnamed >= 0) return `Column ${unnamed + 1} has no name. Give it one, or leave it out.`
  try {
    checkColumns(columns.map(({ name, isLeftOut }) => ({ name: name.trim(), isLeftOut })))
    return null
  } catch (error) {
    if (error instanceof FileError) return error.message
    throw error
  }
}
