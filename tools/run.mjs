/**
 * Runs one of the checkout's TypeScript programs, after installing the packages it needs.
 * Usage: node tools/run.mjs PROGRAM.ts [ARGUMENTS]
 */
import { spawn } from 'node:child_process'
import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import { installPackages } from './packages.mjs'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
process.chdir(root)

const program = process.argv.slice(2)
await installPackages(!['tools/start.ts', 'demo/write.ts'].includes(program[0] ?? ''))
run(program)

/** @param {string[]} program */
function run(program) {
  // The channel tells the program when this one is gone, however it went.
  const child = spawn(process.execPath, ['--import', 'tsx', ...program], { stdio: ['inherit', 'inherit', 'inherit', 'ipc'] })
  // A terminal sends Ctrl-C to both; the child decides how to end, and this one waits for it.
  process.on('SIGINT', () => undefined)
  process.on('SIGTERM', () => child.kill('SIGTERM'))
  process.on('SIGHUP', () => child.kill('SIGTERM'))
  child.on('exit', (code, signal) => process.exit(code ?? (signal === 'SIGINT' ? 130 : 1)))
}
