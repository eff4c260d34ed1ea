import { onScopeDispose, ref } from 'vue'
import { isPassing, messageOf, RequestProblem } from './api'

export type Keeping = { state: 'kept' } | { state: 'keeping' } | { state: 'stale'; message: string } | { state: 'failed'; message: string }

/** After a change nothing is sent for so long, in milliseconds, so that a drag is sent once. */
const PAUSE = 400
/** A server that does not answer is asked again after so long, each time longer. */
const RETRY = { first: 2000, most: 30_000 }

/**
 * Keeps what is changed on the server, a moment after it changed. What could not be sent is sent again, until it is kept
 * or somebody else's change stands in its way.
 * @param send sends all that is to be kept now; called again where anything changed while it was sent
 */
export function useKeeping(send: () => Promise<void>) {
  const keeping = ref<Keeping>({ state: 'kept' })
  let timer: ReturnType<typeof setTimeout> | undefined
  let sending: Promise<void> | null = null
  let changes = 0
  let wait = RETRY.first
  let isOver = false

  function changed(): void {
    changes++
    if (keeping.value.state === 'stale') return
    keeping.value = { state: 'keeping' }
    clearTimeout(timer)
    timer = setTimeout(() => void keep(), PAUSE)
  }

  /** Sends now what is not kept yet; done once everything is kept, or cannot be. */
  function keep(): Promise<void> {
    clearTimeout(timer)
    sending ??= sendAll().finally(() => (sending = null))
    return sending
  }

  async function sendAll(): Promise<void> {
    while (keeping.value.state === 'keeping') {
      const sent = changes
      try {
        await send()
        wait = RETRY.first
        if (changes === sent && keeping.value.state === 'keeping') keeping.value = { state: 'kept' }
      } catch (error) {
        refused(error)
      }
    }
  }

  function refused(error: unknown): void {
    const isStale = error instanceof RequestProblem && error.problem.code === 'stale'
    keeping.value = { state: isStale ? 'stale' : 'failed', message: messageOf(error) }
    if (isOver || !isPassing(error)) return
    timer = setTimeout(tryAgain, wait)
    wait = Math.min(2 * wait, RETRY.most)
  }

  function tryAgain(): void {
    if (keeping.value.state !== 'failed') return
    keeping.value = { state: 'keeping' }
    void keep()
  }

  /** From here on everything counts as kept, whatever was not: another state has taken its place. */
  function settled(): void {
    clearTimeout(timer)
    keeping.value = { state: 'kept' }
  }

  /** Ends a disagreement with a change made elsewhere by sending over it. */
  async function insist(): Promise<void> {
    keeping.value = { state: 'keeping' }
    await keep()
  }

  if (typeof window !== 'undefined') window.addEventListener('online', tryAgain)
  onScopeDispose(() => {
    isOver = true
    clearTimeout(timer)
    if (typeof window !== 'undefined') window.removeEventListener('online', tryAgain)
  })

  return { keeping, changed, keep, refused, tryAgain, settled, insist }
}
