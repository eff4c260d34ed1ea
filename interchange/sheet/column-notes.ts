/** What a workbook that was written here says of its columns: their types and units, in a file of its own that others pass over. */
import type { ColumnPlan } from '../table/settings'
import type { Archive } from './zip'

export const NOTES = 'dime-gate/columns.json'
const MOST_NOTES = 2_000_000

export type ColumnNotes = Readonly<Record<string, Partial<ColumnPlan>>>

/** By head. A workbook that was written by others has none. */
export async function columnNotes(archive: Archive): Promise<ColumnNotes> {
  if (!archive.has(NOTES)) return {}
  const pieces: Uint8Array[] = []
  for await (const piece of archive.pieces(NOTES, MOST_NOTES)) pieces.push(piece)
  try {
    const notes: unknown = JSON.parse(Buffer.concat(pieces).toString('utf8'))
    return notes !== null && typeof notes === 'object' ? (notes as ColumnNotes) : {}
  } catch {
    return {}
  }
}
