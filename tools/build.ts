/** Builds the interface and the server into `build/`, unless what is there comes from the same sources. */
import { existsSync } from 'node:fs'
import { readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { locked } from './lock.mjs'
import { hashOfSources } from './sources.mjs'

const ROOMS = ['core', 'contract', 'interchange', 'demo', 'server', 'web']
const STAMP = join('build', 'sources')

export async function build(): Promise<void> {
  await locked(join('.data', 'build.lock'), async () => {
    const documents = (await readdir('docs')).filter((name) => name.endsWith('.md')).map((name) => join('docs', name))
    const sources = hashOfSources(ROOMS, [join('tools', 'build.ts'), join('tools', 'bundle.mjs'), ...documents])
    if (existsSync(STAMP) && (await readFile(STAMP, 'utf8')) === sources) return
    process.stderr.write('Building …\n')
    await rm(STAMP, { force: true })
    await Promise.all([bundleServer(), buildWeb()])
    await writeFile(STAMP, sources)
  })
}

async function bundleServer(): Promise<void> {
  const { bundle } = await import('./bundle.mjs')
  await bundle(join('server', 'main.ts'), join('build', 'server.mjs'))
  await bundle(join('server', 'thread.ts'), join('build', 'thread.mjs'))
}

async function buildWeb(): Promise<void> {
  const vite = await import('vite')
  const fresh = join('build', 'web.new')
  await vite.build({ configFile: join('web', 'vite.config.ts'), logLevel: 'error', build: { outDir: join('..', fresh), emptyOutDir: true } })
  const served = join('build', 'web')
  await rm(served, { recursive: true, force: true })
  await rename(fresh, served)
}
