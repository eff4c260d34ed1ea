import { execFileSync, spawn } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

let folder: string
let path: string
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'dime-gate-lock-'))
  path = join(folder, 'some.lock')
})
afterEach(() => rm(folder, { recursive: true }))

/** A program that holds the lock for so long, and says when it has it. */
function holder(milliseconds: number) {
  const program = `import(${JSON.stringify(resolve('tools/lock.mjs'))}).then(({ locked }) => locked(${JSON.stringify(path)}, () => { console.log('held'); return new Promise((done) => setTimeout(() => { console.log('over'); done() }, ${milliseconds})) })).then(() => process.exit(0))`
  const child = spawn(process.execPath, ['-e', program], { stdio: ['ignore', 'pipe', 'inherit'] })
  let said = ''
  child.stdout.on('data', (text: Buffer) => (said += text.toString()))
  return { child, said: () => said, held: new Promise<void>((done) => child.stdout.once('data', () => done())) }
}

test('who comes second waits until the first is done', async () => {
  const first = holder(500)
  await first.held
  await holder(0).held
  expect(first.said()).toBe('held\nover\n')
})

test('a holder that was killed outright holds nothing', async () => {
  const first = holder(60_000)
  await first.held
  first.child.kill('SIGKILL')
  await holder(0).held
})

test.each(['', String(process.pid), 'anything'])('a file that is there already, with “%s” in it, is no lock', async (content) => {
  await writeFile(path, content)
  await holder(0).held
})

test('a process that has ended is not alive, also before anybody has taken note of it', async () => {
  // The shell's child ends, and the shell that became something else never asks for it.
  const parent = spawn('sh', ['-c', 'sleep 0 & echo $!; exec sleep 20'], { stdio: ['ignore', 'pipe', 'inherit'] })
  const pid = Number(await new Promise<string>((resolve) => parent.stdout.once('data', (text: Buffer) => resolve(text.toString()))))
  try {
    const program = `import(${JSON.stringify(resolve('tools/lock.mjs'))}).then(async ({ isAlive }) => { for (let tries = 0; isAlive(${pid}) && tries < 250; tries++) await new Promise((done) => setTimeout(done, 20)); console.log([${pid}, process.pid, ${parent.pid}].map(isAlive).join()) })`
    expect(execFileSync(process.execPath, ['-e', program]).toString().trim()).toBe('false,true,true')
  } finally {
    parent.kill()
  }
})
