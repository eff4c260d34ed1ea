import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { ScaleCounts } from '@dime-gate/core/run/scale-result'
import type { Remote } from 'comlink'
import { nextTick, type Ref, ref, shallowRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'

/**
 * Name of the measure, in the browser's performance timeline, from a change of the gate to its counts on
 * the page. Its detail has the milliseconds of work in between: deciding, and drawing the change and the counts.
 */
export const COUNTS_FOLLOW = 'counts follow'

export interface CountsFollowDetail {
  work: number
}

/**
 * Counts that follow the gate while it changes. While one gate is being decided, later ones replace each
 * other, so that the counts are never more than one step behind.
 */
export function useLiveCounts(worker: Remote<RecordsWorker>, gate: Ref<ScaleGate | null>, isOpen: Ref<boolean>) {
  const counts = shallowRef<ScaleCounts | null>(null)
  const tick = ref(0)
  let waiting: { gate: ScaleGate; since: number; drawn: Promise<number> } | null = null
  let isBusy = false

  async function follow(): Promise<void> {
    if (isBusy) return
    isBusy = true
    while (waiting) {
      const { gate: next, since, drawn } = waiting
      waiting = null
      const { counts: decided, took } = await worker.decide(next)
      if (!isOpen.value) continue
      counts.value = decided
      tick.value++
      const work = took + (await drawn) + (await timeToDraw())
      const detail: CountsFollowDetail = { work }
      performance.measure(COUNTS_FOLLOW, { start: since, detail })
    }
    isBusy = false
  }

  watch([gate, isOpen], () => {
    if (!isOpen.value) {
      // What was counted of something else says nothing of what is to come.
      counts.value = null
      tick.value = 0
    }
    if (!gate.value || !isOpen.value) return
    waiting = { gate: gate.value, since: performance.now(), drawn: timeToDraw() }
    void follow()
  }, { immediate: true, flush: 'sync' })

  return { counts, tick }
}

/** Milliseconds until Vue has brought the page up to date with what just changed. */
async function timeToDraw(): Promise<number> {
  const start = performance.now()
  await nextTick()
  return performance.now() - start
}
