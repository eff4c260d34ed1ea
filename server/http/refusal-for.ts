import { isAway, refusedBy } from '../database/database'
import { Refusal, refusals } from './refusal'

/** What is said of a failure that somebody can do something about; null where it is a fault of ours. */
export function refusalFor(error: unknown): Refusal | null {
  if (error instanceof Refusal) return error
  if ((error as NodeJS.ErrnoException | null)?.code === 'ENOSPC') return refusals.noRoom()
  if (isAway(error)) return refusals.databaseAway()
  const why = refusedBy(error)
  return why && refusals.notStored(why, (error as Error).message)
}
