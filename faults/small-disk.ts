/** A disk of its own for the database, small enough to be filled. */
import { chmod, mkdtemp, open, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { isRoot, shell } from '../tools/shell'

const SIZE = '1g'
const PIECE = Buffer.alloc(1 << 20)

export class SmallDisk {
  private constructor(readonly folder: string) {}

  /** @returns null where this user may not mount one */
  static async mount(): Promise<SmallDisk | null> {
    if (!isRoot()) return null
    const folder = await mkdtemp(join(tmpdir(), 'dime-gate-disk-'))
    await shell('mount', ['-t', 'tmpfs', '-o', `size=${SIZE}`, 'tmpfs', folder])
    await chmod(folder, 0o755)
    return new SmallDisk(folder)
  }

  /** Takes all the room that is left while `meanwhile` goes on. */
  async whileFull(meanwhile: () => Promise<void>): Promise<void> {
    const ballast = join(this.folder, 'ballast')
    const file = await open(ballast, 'w')
    try {
      for (;;) await file.write(PIECE)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error
      await meanwhile()
    } finally {
      await file.close()
      await rm(ballast, { force: true })
    }
  }

  async unmount(): Promise<void> {
    await shell('umount', [this.folder])
    await rm(this.folder, { recursive: true })
  }
}
