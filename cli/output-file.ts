/** Where a command writes: a file that appears when it is whole, or standard output. */
import { once } from 'node:events'
import { createWriteStream, type WriteStream } from 'node:fs'
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
  const stream = createWriteStream(path)
  const failed = new Promise<never>((_, reject) => stream.once('error', (error) => reject(fileTrouble(file, fileWords(error)))))
  failed.catch(() => undefined)
  await Promise.race([once(stream, 'open'), failed])
  return {
    write: (text) => Promise.race([written(stream, text), failed]).then(() => true),
    async finish() {
      await Promise.race([new Promise<void>((resolve) => stream.end(resolve)), failed])
      if (isPlain) await rename(path, target)
    },
    async abandon() {
      stream.destroy()
      if (isPlain) await rm(path, { force: true })
    },
  }
}

async function written(stream: WriteStream | NodeJS.WriteStream, text: string): Promise<void> {
  if (!stream.write(text)) await once(stream, 'drain')
}

function standardOutput(): Output {
  let isClosed = false
  const closed = new Promise<void>((resolve) => {
    process.stdout.on('error', (error: NodeJS.ErrnoException) => {
      // Whoever reads has had enough, as `head` does; that is no fault.
      if (error.code !== 'EPIPE') throw error
      isClosed = true
      resolve()
    })
  })
  return {
    async write(text) {
      if (!isClosed) await Promise.race([written(process.stdout, text), closed])
      return !isClosed
    },
    finish: () => new Promise((resolve) => (isClosed ? resolve() : void process.stdout.write('', () => resolve()))),
    abandon: async () => undefined,
  }
}
