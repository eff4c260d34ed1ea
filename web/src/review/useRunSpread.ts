/** How the values of a run are spread along a stretch, asked for once. */
import { runSpreadSchema } from '@dime-gate/contract/run-spread'
import { ref, type Ref, watch } from 'vue'
import { ask } from '../shared/api'

export interface SpreadAsked {
  runId: number
  column: number
  from: number
  to: number
}

/** Strokes along the line. */
export const BINS = 60
/** Runs never change, so what was counted stands. */
const counted = new Map<string, Promise<number[]>>()
const MOST_KEPT = 200

/** @param asked null where there is nothing to count @returns by bin its records; none as long as they are not here: the line can be read without */
export function useRunSpread(asked: () => SpreadAsked | null): Ref<number[]> {
  const spread = ref<number[]>([])
  watch(() => JSON.stringify(asked()), async (now) => {
    spread.value = []
    const one = asked()
    if (!one) return
    const found = await (counted.get(now) ?? remembered(now, ask(runSpreadSchema, `/runs/${one.runId}/columns/${one.column}/spread?from=${one.from}&to=${one.to}&bins=${BINS}`))).catch(() => [])
    if (JSON.stringify(asked()) === now) spread.value = found
  }, { immediate: true })
  return spread
}

function remembered(key: string, asking: Promise<number[]>): Promise<number[]> {
  if (counted.size >= MOST_KEPT) counted.clear()
  counted.set(key, asking)
  // What failed is asked for again.
  asking.catch(() => counted.delete(key))
  return asking
}
