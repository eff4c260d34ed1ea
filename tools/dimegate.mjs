/**
 * The command line. It runs as one built file, which starts some times faster than its sources would;
 * it is built anew when they have changed.
 * Usage: node tools/dimegate.mjs COMMAND [OPTIONS]
 */
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { locked } from './lock.mjs'
import { installPackages } from './packages.mjs'
import { hashOfSources } from './sources.mjs'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
const BUILT = join('build', 'cli.mjs')
const STAMP = join('build', 'cli-sources')

// Where the person is, which npm leaves for the folder of the checkout.
const here = process.env.INIT_CWD ?? process.cwd()
process.chdir(root)
await installPackages(false)
const sources = hashOfSources(['core', 'contract', 'interchange', 'cli'], [join('tools', 'bundle.mjs')])
if (!isBuilt()) await locked(join('.data', 'build-cli.lock'), buildCommand)
process.chdir(here)
await import(pathToFileURL(join(root, BUILT)).href)

function isBuilt() {
  return existsSync(BUILT) && existsSync(STAMP) && readFileSync(STAMP, 'utf8') === sources
}

async function buildCommand() {
  if (isBuilt()) return
  const { bundle } = await import('./bundle.mjs')
  mkdirSync('build', { recursive: true })
  await bundle(join('cli', 'main.ts'), `${BUILT}.new.mjs`)
  renameSync(`${BUILT}.new.mjs`, BUILT)
  writeFileSync(STAMP, sources)
}
