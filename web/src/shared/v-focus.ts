import type { ObjectDirective } from 'vue'

/** As many frames as whatever opens may take until it can be seen. */
const MOST_FRAMES = 30

/** A field that is typed into as soon as it is there; what stands in it is replaced. */
export const vFocus: ObjectDirective<HTMLInputElement> = {
  mounted: (field) => {
    // Whatever opens takes the focus for itself first, and is hidden for a while.
    const take = (frames: number): void => {
      field.focus()
      if (document.activeElement === field) field.select()
      else if (frames > 0) requestAnimationFrame(() => take(frames - 1))
    }
    requestAnimationFrame(() => take(MOST_FRAMES))
  },
}
