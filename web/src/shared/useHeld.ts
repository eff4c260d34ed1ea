import { type ShallowRef, shallowRef, watch } from 'vue'

/**
 * What `of` gives, told on only where it is another. A computed value tells all that hangs on it whenever anything
 * behind it moves, and each of them then finds out that nothing did: of hundreds of rows that is much.
 */
export function useHeld<Value>(of: () => Value): Readonly<ShallowRef<Value>> {
  const held = shallowRef(of())
  watch(of, (now) => (held.value = now), { flush: 'sync' })
  return held
}
