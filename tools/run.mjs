/**
 * Runs one of the checkout's TypeScript programs, after installing the packages it needs.
 * Usage: node tools/run.mjs PROGRAM.ts [ARGUMENTS]
 */
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { locked } from './lock.mjs'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
process.chdir(root)

const program = process.argv.slice(2)
// Whoever only uses the product need not wait for what it is tested with.
const needsAll = !['tools/start.ts', 'demo/write.ts'].includes(program[0] ?? '')

await locked(join('.data', 'install.lock'), installPackages)
run(program)

function installPackages() {
  const versions = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
  const stamp = join('node_modules', '.installed')
  const installed = readIfThere(stamp)
  if (installed === `${versions} all` || (installed === `${versions} to run` && !needsAll)) return
  process.stderr.write('Installing packages …\n')
  // An installation that was broken off may look whole; it is made anew.
  rmSync('node_modules', { recursive: true, force: true })
  // Not `npm ci`: it insists on entries for every platform, and not every registry carries all of those.
  // The lock file holds the versions all the same. No package needs its install script.
  const { status } = spawnSync('npm', ['install', '--no-save', '--ignore-scripts', '--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error', ...(needsAll ? [] : ['--omit=dev'])], { stdio: ['ignore', 2, 2] })
  if (status !== 0) {
    process.stderr.write('The packages could not be installed; npm says why above. Check the connection to the npm registry and try again.\n')
    process.exit(1)
  }
  writeFileSync(stamp, `${versions} ${needsAll ? 'all' : 'to run'}`)
}

/** @param {string} path */
function readIfThere(path) {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    return ''
  }
}

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
