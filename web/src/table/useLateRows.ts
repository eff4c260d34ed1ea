/** Records whose values have not come soon. Until then their rows are empty: drawing them twice takes longer than most values take to come. */
import { onScopeDispose, shallowRef } from 'vue'

/** Milliseconds that values have. */
export const SOON = 250

/** @param inView the records that are, by their numbers */
export function useLateRows(inView: () => readonly number[]) {
  /** Those that were in view for so long. What was drawn once stays, so that it can be typed into. */
  const late = shallowRef<ReadonlySet<number>>(new Set())
  let soon: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => clearTimeout(soon))

  /** From now on values are on their way. */
  function wait(): void {
    clearTimeout(soon)
    soon = setTimeout(() => (late.value = new Set(inView())), SOON)
  }

  return { late, wait }
}
