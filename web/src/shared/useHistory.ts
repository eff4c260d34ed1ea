import { shallowRef } from 'vue'

/** States that can be gone back to, and forward again. States are never changed, only replaced. */
export function useHistory<State>() {
  const present = shallowRef<State | null>(null)
  const past = shallowRef<State[]>([])
  const future = shallowRef<State[]>([])
  /** Changes of one kind in a row, such as the steps of a drag, are undone as one. */
  let lastStep: string | null = null

  function begin(state: State): void {
    present.value = state
    past.value = []
    future.value = []
    lastStep = null
  }

  /** @param step joins this change to the one before it, where that had the same step */
  function change(next: State, step: string | null = null): void {
    if (step === null || step !== lastStep) past.value = [...past.value, present.value!]
    future.value = []
    lastStep = step
    present.value = next
  }

  function endStep(): void {
    lastStep = null
  }

  /** @returns whether there was anything to go back to */
  function undo(): boolean {
    const before = past.value.at(-1)
    if (before === undefined) return false
    future.value = [present.value!, ...future.value]
    past.value = past.value.slice(0, -1)
    present.value = before
    lastStep = null
    return true
  }

  /** @returns whether there was anything to go forward to */
  function redo(): boolean {
    const [next, ...rest] = future.value
    if (next === undefined) return false
    past.value = [...past.value, present.value!]
    future.value = rest
    present.value = next
    lastStep = null
    return true
  }

  return { present, past, future, begin, change, endStep, undo, redo }
}
