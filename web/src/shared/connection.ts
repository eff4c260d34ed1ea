/** Whether the server, and its database behind it, can be reached; asked again and again while they cannot. */
import { onScopeDispose, readonly, ref, watch } from 'vue'

const PAUSE = 2000

const away = ref<string | null>(null)
const returns = ref(0)
let timer: ReturnType<typeof setTimeout> | undefined

/** What is said as long as it is away; null while all is well. */
export const awayMessage = readonly(away)

/** What a page says of its trouble: what stands above it already is not said again. */
export function unlessAway(message: string): string {
  return message === away.value ? 'This page is laid out once that is back.' : message
}

/** Told by whoever asked and got no answer. */
export function noteAway(message: string): void {
  away.value = message
  clearTimeout(timer)
  timer = setTimeout(() => void look(), PAUSE)
}

async function look(): Promise<void> {
  const isBack = await fetch('/ready').then(({ ok }) => ok, () => false)
  if (away.value === null) return
  if (!isBack) return noteAway(away.value)
  away.value = null
  returns.value++
}

/** Does `again` when what was away is back; a page that could not be laid out is, without being asked to. */
export function useReturn(again: () => void): void {
  const stop = watch(returns, again)
  onScopeDispose(stop)
}

/** Once what is away now is back. */
export function untilBack(): Promise<void> {
  return new Promise((resolve) => {
    const stop = watch(returns, () => {
      stop()
      resolve()
    })
  })
}
