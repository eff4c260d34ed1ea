import { onBeforeUnmount } from 'vue'

/** Whoever opened this gets the focus back once it is closed. */
export function useReturnFocus(): void {
  const before = document.activeElement
  onBeforeUnmount(() => {
    // What closes takes the focus along while it goes.
    if (before instanceof HTMLElement) requestAnimationFrame(() => before.isConnected && before.focus())
  })
}
