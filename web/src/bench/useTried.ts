/** The gate as what is beside it follows: findings, examples, where it is otherwise. */
import { type Ref, shallowRef, watch } from 'vue'
import { useLater } from '../shared/useLater'
import { useThrottled } from '../shared/useThrottled'

/** Milliseconds between two of them, however fast the gate changes. */
const PAUSE = 90
/** So long counts are waited for; of a gate that cannot decide there are none. */
const LONGEST_WAIT = 60

/**
 * Counts come first: what takes the other part of the machine begins once they are on the page.
 * @param tick moves with them
 * @param isFetching whether the records that they are counted of are still on their way
 */
export function useTried<Asked>(asked: Ref<Asked | null>, tick: Ref<number>, isFetching: Ref<boolean>): Ref<Asked | null> {
  const tried = shallowRef(asked.value)
  const take = useThrottled(() => (tried.value = asked.value), PAUSE)
  const go = () => tried.value !== asked.value && !isFetching.value && take()
  watch([asked, isFetching], useLater(go, LONGEST_WAIT))
  watch(tick, go, { flush: 'post' })
  return tried
}
