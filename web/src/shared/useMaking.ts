/** Files that take the server a while to make: asked for, waited for, and handed to whoever asked as a download. */
import { API } from '@dime-gate/contract/api'
import { problemSchema } from '@dime-gate/contract/problem'
import { onScopeDispose, ref } from 'vue'
import { messageOf } from './api'
import { nameInDisposition } from './file-name'
import { useNotices } from './notices'

export function useMaking() {
  const notices = useNotices()
  /** Which one is being made; empty for none. */
  const making = ref('')
  let left = new AbortController()

  /** @param what tells it from others that the page has @param path below the root of the API */
  async function make(what: string, path: string): Promise<void> {
    left.abort()
    left = new AbortController()
    const { signal } = left
    making.value = what
    try {
      const answer = await fetch(API + path, { signal })
      if (!answer.ok) throw new Error(problemSchema.safeParse(await answer.json().catch(() => null)).data?.message ?? `The server answered ${answer.status} without saying why. Try again.`)
      save(await answer.blob(), nameInDisposition(answer.headers.get('Content-Disposition')))
    } catch (error) {
      if (!signal.aborted) notices.warn(error instanceof TypeError ? 'The server does not answer at present, so no file was made. Try again.' : messageOf(error))
    } finally {
      if (!signal.aborted) making.value = ''
    }
  }

  function stop(): void {
    left.abort()
    making.value = ''
  }
  onScopeDispose(() => left.abort())
  return { making, make, stop }
}

function save(file: Blob, name: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
}
