/** Brings the trees in over the wire, as the page does once the file has been looked at. */
import { readFile } from 'node:fs/promises'
import { type Table, tableSchema } from '@dime-gate/contract/table'
import { PREVIEW_BYTES, previewTable } from '@dime-gate/interchange/table/preview'
import { askAt, importBy } from '../server/testing/bring-in'
import { treesFile } from './trees'

export type BringIn = (name: string) => Promise<Table>

export async function treesFor(address: string, count: number): Promise<BringIn> {
  const bytes = await readFile((await treesFile(count)).path)
  const { settings } = previewTable(bytes.subarray(0, PREVIEW_BYTES), bytes.length <= PREVIEW_BYTES)
  return async (name) => {
    const { status, body } = await importBy(askAt(address), name, bytes, settings)
    if (status !== 201) throw new Error(JSON.stringify(body))
    return tableSchema.parse(body)
  }
}
