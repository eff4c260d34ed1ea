/** Files for what is on its way: the operating system forgets them with us, whatever becomes of us. */
import { randomBytes } from 'node:crypto'
import { type FileHandle, open, unlink } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Threads may read and write it by its number, as long as the handle is held here. */
export async function unnamedFile(): Promise<FileHandle> {
  const path = join(tmpdir(), `dime-gate-${randomBytes(9).toString('hex')}`)
  const file = await open(path, 'wx+', 0o600)
  await unlink(path)
  return file
}
