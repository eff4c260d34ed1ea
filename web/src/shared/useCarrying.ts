/** Things in a column that are carried to another place by a grip: they change places while they are carried. */
import { ref } from 'vue'

/** So many pixels are a shaky hand, and no carrying. */
const SHAKE = 5

/** The place of a thing that is carried at height `y`, among others whose middles lie at `middles`. */
export function placeAt(y: number, middles: readonly number[], own: number): number {
  return middles.filter((middle, at) => at !== own && middle < y).length
}

/**
 * @param rows the things, in their order
 * @param move takes a thing from one place to another
 * @param dropped is told when it is let go of after having been carried
 */
export function useCarrying(
  rows: () => Iterable<Element>,
  move: (from: number, to: number) => void,
  dropped: () => void = () => undefined,
) {
  /** The thing in the hand; null for none. */
  const carried = ref<number | null>(null)

  function grab(event: PointerEvent, at: number): void {
    if (event.button !== 0) return
    const start = event.clientY
    let from = at
    const over = (moved: PointerEvent) => {
      if (carried.value === null && Math.abs(moved.clientY - start) < SHAKE) return
      const middles = [...rows()].map((row) => row.getBoundingClientRect()).map(({ top, height }) => top + height / 2)
      const to = placeAt(moved.clientY, middles, from)
      if (to !== from) move(from, to)
      carried.value = from = to
    }
    const up = () => {
      window.removeEventListener('pointermove', over)
      window.removeEventListener('pointerup', up)
      if (carried.value !== null) dropped()
      carried.value = null
    }
    window.addEventListener('pointermove', over)
    window.addEventListener('pointerup', up)
  }

  return { carried, grab }
}
