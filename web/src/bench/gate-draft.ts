/** The gate on the bench: its draft and what it looks at in one table, the changes made to both, and their keeping. */
import { type Binding, bindingSchema, type BoundInputs } from '@dime-gate/contract/binding'
import { type FeedingGate, feedingGateSchema, feedingSeen, type Gate, gateSchema } from '@dime-gate/contract/gate'
import { type Run, type RunAsked, runSchema } from '@dime-gate/contract/run'
import type { Gate as GateDocument } from '@dime-gate/core/gate/document'
import { computed, inject, type InjectionKey, provide, reactive, ref, shallowRef } from 'vue'
import { z } from 'zod'
import { ask, askWith } from '../shared/api'
import { isSame } from '@dime-gate/core/gate/is-same'
import { useHistory } from '../shared/useHistory'
import { type Keeping, useKeeping } from '../shared/useKeeping'

/** What can be undone: the draft, and which columns stand for its inputs. */
export interface Draft {
  gate: GateDocument
  inputs: BoundInputs
}

/** One gate on one table, for as long as a page shows it; nothing of it is shared with another page. */
export function useGateDraft(id: number) {
  const stored = shallowRef<Gate | null>(null)
  const binding = shallowRef<Binding | null>(null)
  /** The gates whose outcomes this one takes, as they are used with the table. */
  const feeding = shallowRef<FeedingGate[]>([])
  const { present: draft, past, future, begin, change: changeTo, endStep, ...history } = useHistory<Draft>()
  /** What is to be said of the next version. */
  const note = ref('')
  const { keeping, changed, keep, refused, tryAgain, settled, insist } = useKeeping(send)

  /** @throws RequestProblem */
  async function open(tableId: number): Promise<void> {
    await look(tableId)
    begin({ gate: stored.value!.draft, inputs: binding.value!.inputs })
    settled()
  }

  /** Sees everything as it is stored now. */
  async function look(tableId: number): Promise<void> {
    const [gate, bound] = await Promise.all([ask(gateSchema, `/gates/${id}`), ask(bindingSchema, `/gates/${id}/bindings/${tableId}`)])
    const isFed = gate.draft.inputs.some(({ source }) => source.kind === 'gate')
    feeding.value = isFed ? await ask(z.array(feedingGateSchema), `/gates/${id}/feeding/${tableId}`) : []
    stored.value = gate
    binding.value = bound
  }

  /** The gates that the draft takes labels from may be others than those that fed it when it was opened. @throws RequestProblem */
  async function feedAnew(): Promise<void> {
    await keep()
    feeding.value = await ask(z.array(feedingGateSchema), `/gates/${id}/feeding/${binding.value!.tableId}`)
  }

  /** Gates that the draft takes labels from and that are not known here yet. */
  const unfed = computed(() => (draft.value?.gate.inputs ?? []).flatMap(({ source }) => (source.kind === 'gate' && !feeding.value.some(({ gate }) => gate.name === source.gate) ? [source.gate] : [])))

  async function send(): Promise<void> {
    const { gate, inputs } = draft.value!
    if (!isSame(gate, stored.value!.draft)) stored.value = await askWith(gateSchema, 'PUT', `/gates/${id}/draft`, { draft: gate, seen: stored.value!.draftVersion }, { keepalive: true })
    const { tableId, version, inputs: bound } = binding.value!
    if (!isSame(inputs, bound)) binding.value = await askWith(bindingSchema, 'PUT', `/gates/${id}/bindings/${tableId}`, { inputs, seen: version }, { keepalive: true })
  }

  function change(next: Partial<Draft>, step: string | null = null): void {
    changeTo({ ...draft.value!, ...next }, step)
    changed()
  }

  function undo(): void {
    if (history.undo()) changed()
  }

  function redo(): void {
    if (history.redo()) changed()
  }

  /** Ends a disagreement with a change made elsewhere: by taking that one, or by keeping this one over it. @throws RequestProblem */
  async function settle(choice: 'theirs' | 'mine'): Promise<void> {
    const { tableId } = binding.value!
    if (choice === 'theirs') return open(tableId)
    await look(tableId)
    await insist()
  }

  const isNew = computed(() => !stored.value?.latest || !isSame(stored.value.latest, draft.value?.gate))

  /** Asks once everything is kept; what was changed elsewhere meanwhile is told as it is of a draft, with the ways on. */
  async function onceKept<Answer>(asked: () => Promise<Answer>): Promise<Answer | null> {
    await keep()
    const isIn = (state: Keeping['state']) => keeping.value.state === state
    if (!isIn('kept')) return null
    try {
      return await asked()
    } catch (error) {
      refused(error)
      if (isIn('stale')) return null
      settled()
      throw error
    }
  }

  /** Freezes the draft as the next version. @returns whether it was set. @throws RequestProblem */
  async function setVersion(): Promise<boolean> {
    const gate = await onceKept(() => askWith(gateSchema, 'POST', `/gates/${id}/versions`, { seen: stored.value!.draftVersion, note: note.value }))
    if (gate) {
      stored.value = gate
      note.value = ''
    }
    return gate !== null
  }

  /**
   * Applies the latest version to the table, as it is bound, and keeps the result; null where something else has to be settled first.
   * @param asOf null: the day that counts everywhere
   * @throws RequestProblem
   */
  async function keepRun(asOf: string | null): Promise<Run | null> {
    return onceKept(() => {
      const { tableId, version } = binding.value!
      const request: RunAsked = { gateId: id, version: stored.value!.latestVersion, tableId, binding: version, feeding: feedingSeen(feeding.value) }
      return askWith(runSchema, 'POST', '/runs', asOf === null ? request : { ...request, asOf })
    })
  }

  return reactive({ stored, binding, feeding, draft, past, future, keeping, isNew, note, unfed, open, feedAnew, change, endStep, undo, redo, keep, settle, tryAgain, setVersion, keepRun })
}

export type GateDraft = ReturnType<typeof useGateDraft>

const KEY: InjectionKey<GateDraft> = Symbol('gate draft')

/** Makes a page's draft known to its parts. */
export function provideDraft(draft: GateDraft): GateDraft {
  provide(KEY, draft)
  return draft
}

/** The draft of the page around. */
export function useDraft(): GateDraft {
  return inject(KEY)!
}
