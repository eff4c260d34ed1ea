import { type Remote, wrap } from 'comlink'
import { onScopeDispose } from 'vue'
import type { RecordsWorker } from './records-worker'

/** A session in a worker of the page's own; it ends with the page, and shares nothing with another. */
export function useSession(): Remote<RecordsWorker> {
  const worker = new Worker(new URL('./records-worker.ts', import.meta.url), { type: 'module' })
  onScopeDispose(() => worker.terminate())
  return wrap<RecordsWorker>(worker)
}
