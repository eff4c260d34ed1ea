/**
 * The packages that the checkout needs, installed when they are not there or not the ones that are asked for.
 * Plain JavaScript: it is needed before the packages that read TypeScript are installed.
 */
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { accessSync, constants, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { join, resolve } from 'node:path'
import { locked } from './lock.mjs'

/**
 * Ends the process where they cannot be installed; npm has then said why.
 * @param {boolean} needsAll whoever only uses the product need not wait for what it is tested with
 */
export async function installPackages(needsAll) {
  if (!areInstalled(needsAll)) await locked(join('.data', 'install.lock'), () => install(needsAll))
}

const STAMP = join('node_modules', '.installed')

function wantedVersions() {
  return createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
}

/** @param {boolean} needsAll */
function areInstalled(needsAll) {
  const installed = readIfThere(STAMP)
  return installed === `${wantedVersions()} all` || (installed === `${wantedVersions()} to run` && !needsAll)
}

/** @param {boolean} needsAll */
function install(needsAll) {
  // Somebody else may have done it while this one waited.
  if (areInstalled(needsAll)) return
  process.stderr.write('Installing packages …\n')
  // An installation that was broken off may look whole; it is made anew.
  rmSync('node_modules', { recursive: true, force: true })
  // Not `npm ci`: it insists on entries for every platform, and not every registry carries all of those.
  // The lock file holds the versions all the same. No package needs its install script.
  const cache = cacheFolder()
  const { status } = spawnSync('npm', ['install', '--no-save', '--ignore-scripts', '--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error', ...(needsAll ? [] : ['--omit=dev'])], { stdio: ['ignore', 2, 2], env: { ...process.env, npm_config_cache: cache } })
  if (status !== 0) {
    process.stderr.write('The packages could not be installed; npm says why above. Check the connection to the npm registry and try again.\n')
    process.exit(1)
  }
  writeFileSync(STAMP, `${wantedVersions()} ${needsAll ? 'all' : 'to run'}`)
}

/** npm's own, or one in the checkout where that may not be written to. */
export function cacheFolder() {
  const usual = process.env.npm_config_cache ?? join(homedir(), '.npm')
  try {
    mkdirSync(usual, { recursive: true })
    accessSync(usual, constants.W_OK)
    return usual
  } catch (error) {
    const own = resolve('.data', 'npm-cache')
    process.stderr.write(`npm may not keep packages in ${usual} (${/** @type {NodeJS.ErrnoException} */ (error).code}); it keeps them in ${own}.\n`)
    return own
  }
}

/** @param {string} path */
function readIfThere(path) {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    return ''
  }
}
