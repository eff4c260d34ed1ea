/** What is built from which sources. */
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

/**
 * Changes with every source that could change what is built, and with the versions of the packages.
 * @param {string[]} folders
 * @param {string[]} files
 */
export function hashOfSources(folders, files) {
  const hash = createHash('sha256')
  for (const path of ['package-lock.json', ...files, ...folders.flatMap(filesIn)]) hash.update(path).update(readFileSync(path))
  return hash.digest('hex')
}

/** @param {string} folder */
function filesIn(folder) {
  return readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((path) => !path.includes('node_modules') && !path.endsWith('.test.ts'))
    .sort()
}
