/** The command line as people run it: a process of its own. */
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Readable } from 'node:stream'

export interface Ran {
  code: number | null
  out: string
  err: string
  /** The most memory that the process held at once, in bytes. */
  peak: number
}

export interface RunOptions {
  input?: Readable | string | Uint8Array
  /** Ends the reading of what is written after so many bytes, as `head` does. */
  closeAfter?: number
  /** Keeps nothing of what is written. */
  discards?: boolean
}

export function runCommand(args: readonly string[], { input, closeAfter, discards }: RunOptions = {}): Promise<Ran> {
  const child = spawn(process.execPath, ['tools/dimegate.mjs', ...args], { stdio: ['pipe', 'pipe', 'pipe'] })
  let [out, err, peak] = ['', '', 0]
  let seen = 0
  const watch = setInterval(() => (peak = Math.max(peak, peakOf(child.pid!))), 100)
  child.stdout.setEncoding('utf8').on('data', (text: string) => {
    seen += text.length
    if (!discards) out += text
    if (closeAfter !== undefined && seen >= closeAfter) child.stdout.destroy()
  })
  child.stderr.setEncoding('utf8').on('data', (text: string) => (err += text))
  // A command that ends early leaves its input unread.
  child.stdin.on('error', () => undefined)
  if (input === undefined) child.stdin.end()
  else if (typeof input === 'string' || input instanceof Uint8Array) child.stdin.end(input)
  else input.pipe(child.stdin)
  return new Promise((resolve) => child.on('close', (code) => {
    clearInterval(watch)
    resolve({ code, out, err, peak })
  }))
}

function peakOf(pid: number): number {
  try {
    return Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) * 1024
  } catch {
    return 0
  }
}

export interface Folder {
  path(name: string): string
  write(name: string, content: string | Uint8Array | object): Promise<string>
  remove(): Promise<void>
}

export async function temporaryFolder(): Promise<Folder> {
  const folder = await mkdtemp(join(tmpdir(), 'dimegate-'))
  return {
    path: (name) => join(folder, name),
    async write(name, content) {
      await writeFile(join(folder, name), typeof content === 'string' || content instanceof Uint8Array ? content : JSON.stringify(content))
      return join(folder, name)
    },
    remove: () => rm(folder, { recursive: true, force: true }),
  }
}
