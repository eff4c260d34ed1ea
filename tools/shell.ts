/** Other programs, run to their end. */
import { spawn } from 'node:child_process'
import { userInfo } from 'node:os'

/**
 * What the program printed. It runs in a process group of its own, so that a Ctrl-C does not break it
 * off half-way; whoever waits for it decides what to do then.
 * @throws Error with what it said, where it failed
 */
export async function shell(program: string, args: string[], options: { cwd?: string } = {}): Promise<string> {
  const child = spawn(program, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'], detached: true })
  let [output, errors] = ['', '']
  child.stdout.on('data', (text: Buffer) => (output += text.toString()))
  child.stderr.on('data', (text: Buffer) => (errors += text.toString()))
  const code = await new Promise<number | null>((resolve, reject) => child.once('error', reject).once('exit', resolve))
  if (code !== 0) throw new Error(`${program} ${args.join(' ')} failed: ${errors.trim() || `it ended with ${code}`}`)
  return output
}

export async function succeeds(program: string, args: string[]): Promise<boolean> {
  return shell(program, args, { cwd: '/' }).then(() => true, () => false)
}

export function isRoot(): boolean {
  return userInfo().uid === 0
}

/** Installs packages of the distribution; only root can. */
export async function installFromDebian(what: string, packages: string[]): Promise<void> {
  const command = `apt-get install -y ${packages.join(' ')}`
  if (!isRoot()) throw new Error(`${what} is missing. Install it with: sudo ${command}`)
  process.stderr.write(`Installing ${what} …\n`)
  process.env.DEBIAN_FRONTEND = 'noninteractive'
  await shell('apt-get', ['update', '-q']).catch(() => undefined)
  await shell('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...packages])
}
