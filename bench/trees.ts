/** The street trees of the demo, many of them, as a file that is made once. */
import { existsSync } from 'node:fs'
import { rename, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { STREET_TREE_COLUMNS, streetTrees } from '@dime-gate/demo/street-trees'
import { withHeader } from '@dime-gate/demo/tables'
import { writeCsv } from '@dime-gate/demo/write'

export async function treesFile(count: number): Promise<{ path: string; bytes: number }> {
  const path = join('.data', `trees-${count}.csv`)
  if (!existsSync(path)) {
    await writeCsv(withHeader(STREET_TREE_COLUMNS, streetTrees(count)), `${path}.new`)
    await rename(`${path}.new`, path)
  }
  return { path, bytes: (await stat(path)).size }
}
