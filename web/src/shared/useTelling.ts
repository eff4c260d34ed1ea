import { ref } from 'vue'
import { messageOf } from './api'

/** What goes wrong in some work is told, until the next goes well. */
export function useTelling() {
  const trouble = ref('')
  /** @returns whether it went well */
  async function tell(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work()
      trouble.value = ''
      return true
    } catch (error) {
      trouble.value = messageOf(error)
      return false
    }
  }
  return { trouble, tell }
}
