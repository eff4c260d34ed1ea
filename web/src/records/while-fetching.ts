import { proxy } from 'comlink'
import type { Ref } from 'vue'

/**
 * Fetches by way of the worker, with the records that have come so far in `fetched`; null again once all is here. Progress
 * comes over a port of its own and may be overtaken by the answer: what comes after that is no progress any more.
 */
export async function whileFetching<Answer>(fetched: Ref<number | null>, fetch: (progress: (records: number) => void) => Promise<Answer>): Promise<Answer> {
  let isUnderWay = true
  fetched.value = 0
  try {
    return await fetch(proxy((records: number) => {
      if (isUnderWay) fetched.value = records
    }))
  } finally {
    isUnderWay = false
    fetched.value = null
  }
}
