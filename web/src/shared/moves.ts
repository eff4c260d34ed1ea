/** What moves in tables while they are looked at, wherever it is moved: one line to the server for all of the page. */
import { API } from '@dime-gate/contract/api'
import { onScopeDispose } from 'vue'
import { z } from 'zod'

const moveSchema = z.union([z.object({ table: z.int(), version: z.int() }), z.object({ review: z.literal(true) })]).nullable()

/** A table, and those that its values are drawn from. */
export interface Followed {
  id: number
  standsOn: readonly number[]
}

interface Listener {
  table: () => Followed | null
  /** Told the version that the table has now; null where it has to be looked at: some may have been missed, or a table beneath has moved. */
  heard: (version: number | null) => void
}

/** Milliseconds until a line that broke is tried again. */
const AGAIN_AFTER = 2000

const listeners = new Set<Listener>()
const reviewers = new Set<() => void>()
let line: WebSocket | null = null

export function useMoves(table: Listener['table'], heard: Listener['heard']): void {
  const own = { table, heard }
  listenIn(listeners, own)
}

/** @param heard is told whenever somebody does something in the review, or may have done so */
export function useReviewMoves(heard: () => void): void {
  listenIn(reviewers, heard)
}

function listenIn<One>(all: Set<One>, own: One): void {
  all.add(own)
  if (!line) open()
  onScopeDispose(() => {
    all.delete(own)
    if (listeners.size + reviewers.size > 0) return
    line?.close()
    line = null
  })
}

function open(): void {
  const own = new WebSocket(`${location.origin.replace(/^http/, 'ws')}${API}/moves`)
  line = own
  own.onmessage = ({ data }) => tell(moveSchema.parse(JSON.parse(data as string)))
  own.onclose = () => {
    if (line !== own) return
    setTimeout(() => line === own && open(), AGAIN_AFTER)
  }
}

function tell(move: z.infer<typeof moveSchema>): void {
  if (!move || 'review' in move) for (const heard of [...reviewers]) heard()
  if (move && 'review' in move) return
  for (const { table, heard } of [...listeners]) {
    if (!move) heard(null)
    else if (table()?.id === move.table) heard(move.version)
    else if (table()?.standsOn.includes(move.table)) heard(null)
  }
}
