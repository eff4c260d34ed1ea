/** Where a command writes: a file that appears when it is whole, or standard output. */
import { once } from 'node:events'
import { createWriteStream, rmSync, type WriteStream } from 'node:fs'
import { lstat, realpath, rename, rm } from 'node:fs/promises'
import { fileTrouble } from './command-error'
import { fileWords } from './read-text-file'

export interface Output {
  /** False where nobody reads any more. */
  write(text: string): Promise<boolean>
  /** Puts the file in its place. */
  finish(): Promise<void>
  /** Leaves what was there before. */
  abandon(): Promise<void>
}

/** @param file `-` is standard output */
export async function outputTo(file: string): Promise<Output> {
  if (file === '-') return standardOutput()
  const target = await realpath(file).catch(() => file)
  const isPlain = await lstat(target).then((found) => found.isFile(), () => true)
  // A pipe or a device cannot be put in place of, only written to.
  const path = isPlain ? `${target}.${process.pid}.part` : target
  // Before there is anything that an interruption could leave behind.
  const interrupted = () => {
    if (isPlain) rmSync(path, { force: true })
    process.exit(INTERRUPTED)
  }
  for (const signal of SIGNALS) process.once(signal, interrupted)
  const settled = () => void SIGNALS.forEach((signal) => process.off(signal, interrupted))
  const stream = createWriteStream(path)
  const failed = new Promise<never>((_, reject) => stream.once('error', (error) => reject(fileTrouble(file, fileWords(error)))))
  failed.catch(() => undefined)
  await Promise.race([once(stream, 'open'), failed.catch((error: Error) => {
    settled()
    throw error
  })])
  return {
    write: (text) => Promise.race([written(stream, text), failed]).then(() => true),
    async finish() {
      await Promise.race([new Promise<void>((resolve) => stream.end(resolve)), failed])
      if (isPlain) await rename(path, target)
      settled()
    },
    async abandon() {
      stream.destroy()
      if (isPlain) await rm(path, { force: true })
      settled()
    },
  }
}

const SIGNALS = ['SIGINT', 'SIGTERM', 'SIGHUP'] as const
/** What shells say of a program that was ended by Ctrl-C. */
const INTERRUPTED = 130

async function written(stream: WriteStream | NodeJS.WriteStream, text: string): Promise<void> {
  if (!stream.write(text)) await once(stream, 'drain')
}

function standardOutput(): Output {
  let trouble: NodeJS.ErrnoException | null = null
  const failed = new Promise<void>((resolve) => process.stdout.once('error', (error) => {
    trouble = error
    resolve()
  }))
  /** Whether somebody still reads. Whoever has had enough, as `head` has, is no fault. */
  const isRead = () => {
    if (trouble && trouble.code !== 'EPIPE') throw fileTrouble('standard output', fileWords(trouble))
    return trouble === null
  }
  return {
    async write(text) {
      if (isRead()) await Promise.race([written(process.stdout, text), failed])
      return isRead()
    },
    async finish() {
      if (isRead()) await Promise.race([new Promise<void>((resolve) => void process.stdout.write('', () => resolve())), failed])
      isRead()
    },
    abandon: async () => undefined,
  }
}
