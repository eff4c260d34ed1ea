/** The gate on the bench: its draft, the changes made to it, and their keeping. */
import { type Gate, gateSchema } from '@dime-gate/contract/gate'
import { type Run, runSchema } from '@dime-gate/contract/run'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { ask, askWith, messageOf, RequestProblem } from '../shared/api'

/** What can be undone: the draft, and which column of which table it looks at. */
export interface Draft {
  gate: ScaleGate
  tableId: number
  columnId: number
}

type Keeping = { state: 'kept' } | { state: 'keeping' } | { state: 'stale'; message: string } | { state: 'failed'; message: string }

const PAUSE = 400

export const useDraft = defineStore('draft', () => {
  const stored = shallowRef<Gate | null>(null)
  const draft = shallowRef<Draft | null>(null)
  const past = shallowRef<Draft[]>([])
  const future = shallowRef<Draft[]>([])
  const keeping = ref<Keeping>({ state: 'kept' })
  /** Changes of one kind in a row, such as the steps of a drag, are undone as one. */
  let lastStep: string | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let sending: Promise<void> | null = null

  function take(gate: Gate): void {
    stored.value = gate
    draft.value = { gate: gate.draft, tableId: gate.tableId, columnId: gate.columnId }
    past.value = []
    future.value = []
    lastStep = null
    keeping.value = { state: 'kept' }
  }

  async function open(id: number): Promise<void> {
    clearTimeout(timer)
    draft.value = null
    take(await ask(gateSchema, `/gates/${id}`))
  }

  /** @param step joins this change to the one before it, where that had the same step */
  function change(next: Partial<Draft>, step: string | null = null): void {
    const before = draft.value!
    if (step === null || step !== lastStep) past.value = [...past.value, before]
    future.value = []
    lastStep = step
    draft.value = { ...before, ...next }
    keepSoon()
  }

  function endStep(): void {
    lastStep = null
  }

  function undo(): void {
    const before = past.value.at(-1)
    if (!before) return
    future.value = [draft.value!, ...future.value]
    past.value = past.value.slice(0, -1)
    draft.value = before
    lastStep = null
    keepSoon()
  }

  function redo(): void {
    const [next, ...rest] = future.value
    if (!next) return
    past.value = [...past.value, draft.value!]
    future.value = rest
    draft.value = next
    lastStep = null
    keepSoon()
  }

  function keepSoon(): void {
    if (keeping.value.state === 'stale') return
    keeping.value = { state: 'keeping' }
    clearTimeout(timer)
    timer = setTimeout(() => void keep(), PAUSE)
  }

  /** Sends the draft now, and again if it changed while it was sent. */
  async function keep(): Promise<void> {
    clearTimeout(timer)
    if (sending) await sending
    if (keeping.value.state !== 'keeping') return
    const { gate, tableId, columnId } = draft.value!
    const sent = draft.value
    sending = askWith(gateSchema, 'PUT', `/gates/${stored.value!.id}/draft`, { draft: gate, tableId, columnId, seen: stored.value!.draftVersion }, { keepalive: true })
      .then((answer) => {
        stored.value = answer
        if (draft.value === sent) keeping.value = { state: 'kept' }
      })
      .catch((error: unknown) => {
        const isStale = error instanceof RequestProblem && error.problem.code === 'stale'
        keeping.value = { state: isStale ? 'stale' : 'failed', message: messageOf(error) }
      })
    await sending
    sending = null
    if (keeping.value.state === 'keeping') await keep()
  }

  /** Ends a disagreement with a change made elsewhere: by taking that one, or by keeping this one over it. */
  async function settle(choice: 'theirs' | 'mine'): Promise<void> {
    const theirs = await ask(gateSchema, `/gates/${stored.value!.id}`)
    if (choice === 'theirs') {
      take(theirs)
      return
    }
    stored.value = theirs
    keeping.value = { state: 'keeping' }
    await keep()
  }

  function tryAgain(): void {
    keeping.value = { state: 'keeping' }
    void keep()
  }

  const isNew = computed(() => {
    const latest = stored.value?.latest
    return !latest || !isSame(latest, draft.value?.gate)
  })

  /** Freezes the draft as the next version. @throws RequestProblem */
  async function setVersion(): Promise<void> {
    await keep()
    if (keeping.value.state !== 'kept') throw new Error('The draft is not kept yet, so no version can be set. See the message above it.')
    stored.value = await askWith(gateSchema, 'POST', `/gates/${stored.value!.id}/versions`, { seen: stored.value!.draftVersion })
  }

  /** Applies the latest version and keeps the result. @throws RequestProblem */
  async function keepRun(): Promise<Run> {
    await keep()
    const { id, latestVersion } = stored.value!
    return askWith(runSchema, 'POST', '/runs', { gateId: id, version: latestVersion })
  }

  return { stored, draft, past, future, keeping, isNew, open, change, endStep, undo, redo, keep, settle, tryAgain, setVersion, keepRun }
})

/** Whether two documents say the same, whatever the order of their keys. */
function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b
  const keys = Object.keys(a)
  return keys.length === Object.keys(b).length && keys.every((key) => isSame(a[key as keyof typeof a], b[key as keyof typeof b]))
}
