/** Whoever looks at a table hears of its changes, wherever they are made: the database passes them on. */
import pg from 'pg'
import { CHANNEL } from './versions'

/** A change of a table; or that something was done in the review. */
export type Moved = { table: number; version: number } | { review: true }

/** Milliseconds until it is tried again to listen. */
const AGAIN_AFTER = 1000

export class ChangeTeller {
  private readonly listeners = new Set<(moved: Moved | null) => void>()
  private client: pg.Client | null = null
  private isListening = false
  private isClosed = false
  private again: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly url: string) {}

  /** @param heard is told of each change; null, once it is listened to from now on, says that some may have been missed before. @returns what ends it */
  listen(heard: (moved: Moved | null) => void): () => void {
    this.listeners.add(heard)
    if (this.isListening) heard(null)
    else if (!this.client) void this.connect()
    return () => this.listeners.delete(heard)
  }

  async close(): Promise<void> {
    this.isClosed = true
    clearTimeout(this.again)
    await this.client?.end().catch(() => undefined)
  }

  private async connect(): Promise<void> {
    if (this.isClosed) return
    const client = (this.client = new pg.Client({ connectionString: this.url }))
    const lost = (): void => {
      if (this.client !== client) return
      this.client = null
      this.isListening = false
      if (!this.isClosed) this.again = setTimeout(() => void this.connect(), AGAIN_AFTER)
    }
    client.on('error', lost).on('end', lost)
    client.on('notification', ({ payload }) => {
      if (payload === 'review') return this.tell({ review: true })
      const [table, version] = (payload ?? '').split(' ').map(Number)
      this.tell({ table: table!, version: version! })
    })
    try {
      await client.connect()
      await client.query(`listen ${CHANNEL}`)
      this.isListening = true
      this.tell(null)
    } catch {
      lost()
    }
  }

  private tell(moved: Moved | null): void {
    for (const heard of this.listeners) heard(moved)
  }
}
