/**
 * One piece of work at a time in a checkout, whoever else is running there.
 * Plain JavaScript: it is needed before the packages that read TypeScript are installed.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

/** @param {number} pid */
export function isAlive(pid) {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return /** @type {NodeJS.ErrnoException} */ (error).code === 'EPERM'
  }
}

/**
 * Runs `work` while holding the lock file at `path`; waits for whoever holds it, unless they are gone.
 * @template Result
 * @param {string} path
 * @param {() => Result | Promise<Result>} work
 * @returns {Promise<Result>}
 */
export async function locked(path, work) {
  mkdirSync(dirname(path), { recursive: true })
  while (!take(path)) await new Promise((resolve) => setTimeout(resolve, 150))
  try {
    return await work()
  } finally {
    rmSync(path, { force: true })
  }
}

/** @param {string} path */
function take(path) {
  try {
    writeFileSync(path, String(process.pid), { flag: 'wx' })
    return true
  } catch (error) {
    if (/** @type {NodeJS.ErrnoException} */ (error).code !== 'EEXIST') throw error
  }
  const holder = Number(readIfThere(path))
  // An empty file is one that its holder is about to fill.
  if (holder > 0 && !isAlive(holder)) rmSync(path, { force: true })
  return false
}

/** @param {string} path */
function readIfThere(path) {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    return ''
  }
}
