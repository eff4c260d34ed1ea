/** Files by their numbers, as threads read them that others opened. */
import { read } from 'node:fs'
import { promisify } from 'node:util'
import type { ByteFile } from '@dime-gate/interchange/table/byte-file'

const readAt = promisify(read)

export function byteFile(fd: number, size: number): ByteFile {
  return {
    size,
    async read(from, length) {
      const wanted = Math.max(0, Math.min(length, size - from))
      const bytes = Buffer.allocUnsafe(wanted)
      let at = 0
      while (at < wanted) {
        const { bytesRead } = await readAt(fd, bytes, at, wanted - at, from + at)
        if (bytesRead === 0) break
        at += bytesRead
      }
      return bytes.subarray(0, at)
    },
  }
}
