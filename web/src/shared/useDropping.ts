/** Things that are carried by the pointer and dropped on a place. */
import { onScopeDispose, ref } from 'vue'

/** So many pixels are a shaky hand, and no carrying. */
const SHAKE = 5
/** So near to the end of what scrolls, it does. */
const NEAR = 28
const STEP = 14

/**
 * @param placeOf names the place that an element stands for; null for none
 * @param drop is told where what was carried is let go of
 */
export function useDropping<Name>(placeOf: (element: Element) => Name | null, drop: (place: Name) => void) {
  /** Where the hand is while it carries something. */
  const hand = ref<{ x: number; y: number } | null>(null)
  const over = ref<Name | null>(null)
  let end: () => void = () => undefined

  /** @param begin is told once the hand really moves */
  function grab(event: PointerEvent, begin: () => void): void {
    if (event.button !== 0) return
    const start = { x: event.clientX, y: event.clientY }
    const move = (moved: PointerEvent) => {
      if (!hand.value) {
        if (Math.hypot(moved.clientX - start.x, moved.clientY - start.y) < SHAKE) return
        begin()
      }
      moved.preventDefault()
      hand.value = { x: moved.clientX, y: moved.clientY }
      const under = document.elementFromPoint(moved.clientX, moved.clientY)
      over.value = under && (placeOf(under) as typeof over.value)
      if (under) scrollNear(under, moved.clientY)
    }
    const up = () => {
      const [carried, place] = [hand.value, over.value as Name | null]
      end()
      if (!carried) return
      // The click that follows is none.
      const swallow = (click: Event) => click.stopPropagation()
      window.addEventListener('click', swallow, { capture: true, once: true })
      setTimeout(() => window.removeEventListener('click', swallow, true))
      if (place !== null) drop(place)
    }
    const key = (pressed: KeyboardEvent) => {
      if (pressed.key !== 'Escape' || !hand.value) return
      pressed.preventDefault()
      pressed.stopPropagation()
      end()
    }
    end = () => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', up)
      window.removeEventListener('pointercancel', end)
      window.removeEventListener('keydown', key, true)
      hand.value = null
      over.value = null
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', up)
    window.addEventListener('pointercancel', end)
    window.addEventListener('keydown', key, true)
  }
  onScopeDispose(() => end())

  return { hand, over, grab }
}

function scrollNear(under: Element, y: number): void {
  const scroller = under.closest('[data-scrolls]')
  if (!scroller) return
  const { top, bottom } = scroller.getBoundingClientRect()
  if (y < top + NEAR) scroller.scrollTop -= STEP
  else if (y > bottom - NEAR) scroller.scrollTop += STEP
}
