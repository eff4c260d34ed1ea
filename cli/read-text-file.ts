/** Whole text files. */
import { readFile } from 'node:fs/promises'
import { text as readAll } from 'node:stream/consumers'
import { detectEncoding, type Encoding, textDecoding } from '@dime-gate/interchange/table/decode'
import { FileError } from '@dime-gate/interchange/table/problem'
import { fileTrouble } from './command-error'

/** What a gate's file may weigh, in bytes. */
const LARGEST = 50_000_000

/** @param file `-` is standard input */
export async function readTextFile(file: string): Promise<string> {
  if (file === '-') return readAll(process.stdin)
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw fileTrouble(file, fileWords(error))
  })
  if (bytes.length > LARGEST) throw fileTrouble(file, `The file has ${bytes.length} bytes; a gate of at most ${LARGEST} is read.`)
  const decoding = textDecoding(declaredEncoding(bytes) ?? detectEncoding(bytes))
  try {
    return decoding.decode(bytes) + decoding.end()
  } catch (error) {
    if (error instanceof FileError) throw fileTrouble(file, error.message, error.problem)
    throw error
  }
}

/** XML 1.0 clause 4.3.3: the encoding that the first line names. */
function declaredEncoding(bytes: Uint8Array): Encoding | null {
  const start = Buffer.from(bytes.subarray(0, 200)).toString('latin1')
  const name = /^<\?xml[^>]*\bencoding\s*=\s*["']([^"']+)["']/.exec(start)?.[1]?.toLowerCase()
  return name && ['iso-8859-1', 'windows-1252', 'latin1'].includes(name) ? 'windows-1252' : null
}

/** Why a file cannot be opened, in words. */
export function fileWords({ code, message }: NodeJS.ErrnoException): string {
  switch (code) {
    case 'ENOENT':
      return 'There is no such file or folder.'
    case 'EACCES': case 'EPERM':
      return 'You may not open this file; look at its permissions.'
    case 'EISDIR':
      return 'This is a folder, not a file.'
    case 'ENOSPC':
      return 'The disk is full.'
    default:
      return message
  }
}
