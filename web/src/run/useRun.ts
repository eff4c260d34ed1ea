/** A run, followed until it has ended. */
import type { Run } from '@dime-gate/contract/run'
import { onScopeDispose, ref, shallowRef } from 'vue'
import { messageOf } from '../shared/api'

const PAUSE = 300

/** @param look asks for the run as it is now. @param whenDone is called once, with the run that is done */
export function useRun(look: () => Promise<Run>, whenDone: (run: Run) => Promise<void>) {
  const run = shallowRef<Run | null>(null)
  const trouble = ref('')
  let isLeft = false
  let round = 0
  onScopeDispose(() => (isLeft = true))

  /** Looks again and again as long as the run is under way. What could not be had can be asked for again. */
  async function follow(): Promise<void> {
    const mine = ++round
    trouble.value = ''
    try {
      while (!isLeft && mine === round) {
        run.value = await look()
        if (run.value.state !== 'under way') break
        await new Promise((resolve) => setTimeout(resolve, PAUSE))
      }
      if (!isLeft && mine === round && run.value?.state === 'done') await whenDone(run.value)
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  function leave(): void {
    isLeft = true
  }

  return { run, trouble, follow, leave }
}
