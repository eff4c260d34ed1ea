/**
 * One piece of work at a time in a checkout, whoever else is running there.
 * Plain JavaScript: it is needed before the packages that read TypeScript are installed.
 */
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, readFileSync } from 'node:fs'
import { dirname } from 'node:path'

/**
 * Whether a process is at work; one that has ended and is not cleared away by its parent yet is not.
 * @param {number} pid
 */
export function isAlive(pid) {
  try {
    process.kill(pid, 0)
    return !isLeftover(pid)
  } catch (error) {
    return /** @type {NodeJS.ErrnoException} */ (error).code === 'EPERM'
  }
}

/** @param {number} pid */
function isLeftover(pid) {
  try {
    // proc(5): the state comes behind the name, which is in brackets and may hold any sign.
    return /\) [ZX]/.test(readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\)/s, ')'))
  } catch {
    return false
  }
}

/**
 * Runs `work` while holding the lock at `path`; waits for whoever holds it. The lock is the operating system's own
 * (flock(2)), held by a program that ends with this one: it is free again whatever becomes of us, and what the file says,
 * or whose process it once was, does not matter.
 * @template Result
 * @param {string} path
 * @param {() => Result | Promise<Result>} work
 * @returns {Promise<Result>}
 */
export async function locked(path, work) {
  mkdirSync(dirname(path), { recursive: true })
  const holder = spawn('flock', [path, 'sh', '-c', 'echo held; cat > /dev/null'], { stdio: ['pipe', 'pipe', 'inherit'], detached: true })
  // In a group of its own: a Ctrl-C in the terminal is for us, and our end closes what it reads from.
  await new Promise((resolve, reject) => {
    holder.stdout.once('data', resolve)
    holder.once('error', (error) => reject(new Error(`The lock ${path} cannot be taken: flock does not run (${error.message}). Debian has it in util-linux.`)))
    holder.once('exit', () => reject(new Error(`The lock ${path} cannot be taken; see above.`)))
  })
  try {
    return await work()
  } finally {
    holder.stdin.end()
    if (holder.exitCode === null && holder.signalCode === null) await once(holder, 'exit')
  }
}
