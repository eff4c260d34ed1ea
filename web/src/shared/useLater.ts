import { onScopeDispose } from 'vue'

/** Calls `work` once it was not asked for during `pause` milliseconds: however often it was, once. */
export function useLater(work: () => unknown, pause: number): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => clearTimeout(timer))
  return () => {
    clearTimeout(timer)
    timer = setTimeout(work, pause)
  }
}
