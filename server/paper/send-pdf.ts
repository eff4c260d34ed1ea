/** Sends what was printed, as a file to be kept. */
import type { FileHandle } from 'node:fs/promises'
import type { Context } from 'koa'

/** @param name without its ending @param print breaks off where the reader has gone */
export async function sendPdf(context: Context, name: string, print: (signal: AbortSignal) => Promise<{ file: FileHandle; size: number }>): Promise<void> {
  const left = new AbortController()
  context.res.once('close', () => left.abort())
  const { file, size } = await print(left.signal)
  context.attachment(`${name}.pdf`)
  context.type = 'application/pdf'
  context.length = size
  // The handle closes with the stream.
  context.body = file.createReadStream({ start: 0 })
}
