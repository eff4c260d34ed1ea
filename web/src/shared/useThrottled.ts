import { onScopeDispose } from 'vue'

/** Calls `work` at most once in `pause` milliseconds; a call in between is made up for at the end of it. */
export function useThrottled(work: () => unknown, pause: number): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  let isDue = false
  onScopeDispose(() => clearTimeout(timer))

  function call(): void {
    if (timer !== undefined) {
      isDue = true
      return
    }
    isDue = false
    timer = setTimeout(() => {
      timer = undefined
      if (isDue) call()
    }, pause)
    work()
  }
  return call
}
