import { type Remote, wrap } from 'comlink'
import { effectScope, onScopeDispose } from 'vue'
import type { RecordsWorker } from './records-worker'

/** A session in a worker of the page's own; it ends with the page, and shares nothing with another. */
export function useSession(): Remote<RecordsWorker> {
  const worker = new Worker(new URL('./records-worker.ts', import.meta.url), { type: 'module' })
  onScopeDispose(() => worker.terminate())
  return wrap<RecordsWorker>(worker)
}

/** One that is only made once it is asked for. */
export function useSessionLater(): () => Remote<RecordsWorker> {
  const scope = effectScope()
  let session: Remote<RecordsWorker> | undefined
  return () => (session ??= scope.run(useSession)!)
}

/**
 * One at a time, for whatever the key stands for: a session knows the records of one table, as they were when they were
 * fetched. The one before ends with the next.
 */
export function useSessionsByKey(): (key: string) => Remote<RecordsWorker> {
  const around = effectScope()
  let last: { key: string; session: Remote<RecordsWorker>; end: () => void } | undefined
  return (key) => {
    if (last?.key === key) return last.session
    last?.end()
    const scope = around.run(() => effectScope())!
    last = { key, session: scope.run(useSession)!, end: () => scope.stop() }
    return last.session
  }
}
