/** What is expected of a gate's runs, stated and taken away; what is taken away can be taken back. */
import { type Expectation, type KeptExpectation, keptExpectationSchema } from '@dime-gate/contract/expectation'
import { shallowRef } from 'vue'
import { z } from 'zod'
import { ask, askWith, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'

/** @param moved what to do once something is expected otherwise */
export function useExpectations(gateId: () => number, moved: () => unknown = () => undefined) {
  const kept = shallowRef<KeptExpectation[]>([])
  const notices = useNotices()
  const path = () => `/gates/${gateId()}/expectations`

  /** What cannot be had is left out: a gate can be worked on without. */
  async function load(): Promise<void> {
    kept.value = await ask(z.array(keptExpectationSchema), path()).catch(() => [])
  }

  /** @returns whether it is done; what is refused is told */
  async function add(expectations: readonly Expectation[], tableId: number | null): Promise<boolean> {
    try {
      kept.value = await askWith(z.array(keptExpectationSchema), 'POST', path(), { add: expectations.map((expectation) => ({ tableId, expectation })) })
      await moved()
      return true
    } catch (error) {
      notices.warn(messageOf(error))
      return false
    }
  }

  async function remove(id: number): Promise<void> {
    const gone = kept.value.find((one) => one.id === id)
    try {
      await askWith(z.object({}), 'DELETE', `${path()}/${id}`, {})
      kept.value = kept.value.filter((one) => one.id !== id)
      await moved()
      if (gone) notices.say('That is not expected any more.', { label: 'Take it back', run: () => void add([gone.expectation], gone.tableId) })
    } catch (error) {
      notices.warn(messageOf(error))
    }
  }

  return { kept, load, add, remove }
}
