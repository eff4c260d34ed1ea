import { type Remote, wrap } from 'comlink'
import { onScopeDispose } from 'vue'
import type { RecordsWorker } from './records-worker'

/** A worker of the page's own; it ends with the page. */
export function useRecordsWorker(): Remote<RecordsWorker> {
  const worker = new Worker(new URL('./records-worker.ts', import.meta.url), { type: 'module' })
  onScopeDispose(() => worker.terminate())
  return wrap<RecordsWorker>(worker)
}
