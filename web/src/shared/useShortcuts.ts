import { onBeforeUnmount, onMounted } from 'vue'

/**
 * Single keys for the page's acts, except while somebody types or a dialog or menu is open.
 * @param shortcuts by key, as `KeyboardEvent.key` names it; a shifted letter is its capital
 */
export function useShortcuts(shortcuts: Record<string, () => void>): void {
  function onKey(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.altKey || isTyping(event.target) || isAnythingOpen()) return
    const undoing = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
    const key = undoing ? (event.shiftKey ? 'U' : 'u') : event.key
    if ((event.ctrlKey || event.metaKey) && !undoing) return
    const act = shortcuts[key]
    if (!act) return
    event.preventDefault()
    act()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}

/** A dialog or a menu, in which the same keys mean something else; what only tells does not count. */
function isAnythingOpen(): boolean {
  return document.querySelector('.v-overlay--active:is(.v-dialog, .v-menu)') !== null
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}
