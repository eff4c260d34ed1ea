/** What moves in tables while they are looked at, wherever it is moved: one line to the server for all of the page. */
import { API } from '@dime-gate/contract/api'
import { onScopeDispose } from 'vue'
import { z } from 'zod'

const moveSchema = z.object({ table: z.int(), version: z.int() }).nullable()

interface Listener {
  table: () => number | null
  /** Told the version that the table has now; null where some may have been missed, so that it has to be looked at. */
  heard: (version: number | null) => void
}

const listeners = new Set<Listener>()
let line: EventSource | null = null

export function useMoves(table: Listener['table'], heard: Listener['heard']): void {
  const own = { table, heard }
  listeners.add(own)
  if (!line) {
    // The browser goes on by itself after a break (HTML standard, server-sent events).
    line = new EventSource(`${API}/moves`)
    line.onmessage = ({ data }) => tell(moveSchema.parse(JSON.parse(data as string)))
  }
  onScopeDispose(() => {
    listeners.delete(own)
    if (listeners.size > 0) return
    line?.close()
    line = null
  })
}

function tell(move: z.infer<typeof moveSchema>): void {
  for (const { table, heard } of [...listeners]) {
    if (!move) heard(null)
    else if (table() === move.table) heard(move.version)
  }
}
