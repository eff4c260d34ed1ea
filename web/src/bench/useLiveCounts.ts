import type { ScaleGate } from '@dime-gate/core/gate/scale-gate'
import type { ScaleCounts } from '@dime-gate/core/run/scale-result'
import type { Remote } from 'comlink'
import { nextTick, type Ref, ref, shallowRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'

/** Name of the measure, in the browser's performance timeline, from a change of the gate to its counts on the page. */
export const COUNTS_FOLLOW = 'counts follow'

/**
 * Counts that follow the gate while it changes. While one gate is being decided, later ones replace each
 * other, so that the counts are never more than one step behind.
 */
export function useLiveCounts(worker: Remote<RecordsWorker>, gate: Ref<ScaleGate | null>, isOpen: Ref<boolean>) {
  const counts = shallowRef<ScaleCounts | null>(null)
  const tick = ref(0)
  let waiting: { gate: ScaleGate; since: number } | null = null
  let busy = false

  async function follow(): Promise<void> {
    if (busy) return
    busy = true
    while (waiting) {
      const { gate: next, since } = waiting
      waiting = null
      counts.value = await worker.decide(next)
      tick.value++
      await nextTick()
      performance.measure(COUNTS_FOLLOW, { start: since })
    }
    busy = false
  }

  watch([gate, isOpen], () => {
    if (!gate.value || !isOpen.value) return
    waiting = { gate: gate.value, since: performance.now() }
    void follow()
  }, { immediate: true, flush: 'sync' })

  return { counts, tick }
}
