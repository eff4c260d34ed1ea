import { execFile } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'

/** In a process of its own, with a home of its own. */
async function cacheUnder(home: string): Promise<{ folder: string; said: string }> {
  const program = "import { cacheFolder } from './tools/packages.mjs'; console.log(cacheFolder())"
  const { npm_config_cache: _, ...env } = process.env
  const { stdout, stderr } = await promisify(execFile)(process.execPath, ['--input-type=module', '-e', program], { env: { ...env, HOME: home } })
  return { folder: stdout.trim(), said: stderr }
}

test('packages are kept where npm keeps them, or in the checkout under a home that cannot be written to, which is said', async () => {
  const home = await mkdtemp(join(tmpdir(), 'dime-gate-'))
  expect(await cacheUnder(home)).toEqual({ folder: join(home, '.npm'), said: '' })
  // Where no folder can be made, whoever asks.
  const odd = join(home, 'file')
  await writeFile(odd, '')
  const { folder, said } = await cacheUnder(odd)
  await rm(home, { recursive: true })
  expect(folder).toBe(resolve('.data', 'npm-cache'))
  expect(said).toMatch(/npm may not keep packages in .*file\/\.npm \(ENOTDIR\); it keeps them in/)
})
