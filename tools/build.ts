/** Builds the interface and the server into `build/`, unless what is there comes from the same sources. */
import { createHash } from 'node:crypto'
import { existsSync } from 'node:fs'
import { readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { locked } from './lock.mjs'

const ROOMS = ['core', 'contract', 'interchange', 'demo', 'server', 'web']
const STAMP = join('build', 'sources')

export async function build(): Promise<void> {
  await locked(join('.data', 'build.lock'), async () => {
    const sources = await hashOfSources()
    if (existsSync(STAMP) && (await readFile(STAMP, 'utf8')) === sources) return
    process.stderr.write('Building …\n')
    await rm(STAMP, { force: true })
    await Promise.all([buildServer(), buildWeb()])
    await writeFile(STAMP, sources)
  })
}

async function buildServer(): Promise<void> {
  const esbuild = await import('esbuild')
  await esbuild.build({
    entryPoints: { server: 'server/main.ts' },
    outdir: 'build',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'error',
    // Bundled whole, packages too: each room then gets the very version that it asks for.
    external: ['pg-native'],
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  })
}

async function buildWeb(): Promise<void> {
  const vite = await import('vite')
  const fresh = join('build', 'web.new')
  await vite.build({ configFile: join('web', 'vite.config.ts'), logLevel: 'error', build: { outDir: join('..', fresh), emptyOutDir: true } })
  const served = join('build', 'web')
  await rm(served, { recursive: true, force: true })
  await rename(fresh, served)
}

async function hashOfSources(): Promise<string> {
  const hash = createHash('sha256')
  for (const path of ['package-lock.json', join('tools', 'build.ts'), ...(await filesIn(ROOMS))]) {
    hash.update(path).update(await readFile(path))
  }
  return hash.digest('hex')
}

async function filesIn(folders: string[]): Promise<string[]> {
  const files: string[] = []
  for (const folder of folders) {
    for (const entry of await readdir(folder, { withFileTypes: true, recursive: true })) {
      const path = join(entry.parentPath, entry.name)
      if (entry.isFile() && !path.includes('node_modules') && !path.endsWith('.test.ts')) files.push(path)
    }
  }
  return files.sort()
}
