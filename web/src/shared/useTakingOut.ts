/** Files that are asked for by their addresses, which cannot tell that they wait for others first: that is told beside them. */
import { API } from '@dime-gate/contract/api'
import { waitSchema } from '@dime-gate/contract/wait'
import { ref } from 'vue'
import { ask } from './api'
import { followWait } from './follow-wait'
import { useNotices } from './notices'

export function useTakingOut() {
  const notices = useNotices()
  /** Each file that is asked for has one of its own. */
  const ticket = ref(crypto.randomUUID())

  function asked(): void {
    const mine = ticket.value
    ticket.value = crypto.randomUUID()
    void followWait(
      async () => (await ask(waitSchema, `/waits/${mine}`)).isWaiting,
      (isWaiting) =>
        notices.say(isWaiting ? 'Others are being taken out first. Yours follows by itself.' : 'Yours is being taken out now.'),
    )
  }

  return { addressOf: (path: string) => `${API}${path}?ticket=${ticket.value}`, asked }
}
