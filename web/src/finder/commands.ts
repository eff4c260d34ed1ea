/** What can be done on a page: by a single key, where nobody types and nothing is open, or found by its name in one place. */
import { computed, onBeforeUnmount, onMounted, ref, shallowReactive } from 'vue'

export interface Command {
  words: string
  /** As `KeyboardEvent.key` names it; a shifted letter is its capital. */
  key?: string
  act: () => unknown
  /** Whether there is nothing that it could be done to now. */
  isOff?: () => boolean
}

/** Those of the page that is shown, as its parts have told them. */
const told = shallowReactive(new Set<readonly Command[]>())
const everywhere = new WeakSet<readonly Command[]>()

const withKeysFirst = (isEverywhere: boolean) => [...told].filter((one) => everywhere.has(one) === isEverywhere).flat().toSorted((a, b) => Number(!a.key) - Number(!b.key))
/** Those of the page that is shown, and those that are there on every page; of both those that have keys first. */
export const commandsHere = computed((): Command[] => withKeysFirst(false))
export const commandsEverywhere = computed((): Command[] => withKeysFirst(true))

const KEPT = 'dime-gate.single-keys'
/** Whether single keys act at all: who speaks to the machine, or whose hand is not steady, can switch them off (WCAG 2.2, 2.1.4). */
export const hasSingleKeys = ref(localStorage.getItem(KEPT) !== 'off')

export function switchSingleKeys(): void {
  hasSingleKeys.value = !hasSingleKeys.value
  localStorage.setItem(KEPT, hasSingleKeys.value ? 'on' : 'off')
  markPage()
}

/** Keys that do nothing are not shown. */
function markPage(): void {
  document.documentElement.classList.toggle('without-keys', !hasSingleKeys.value)
}

/** Tells what can be done for as long as whoever tells it is there. @param isEverywhere whether that is so on every page */
export function useCommands(own: readonly Command[], isEverywhere = false): void {
  if (isEverywhere) everywhere.add(own)
  function onKey(event: KeyboardEvent): void {
    const key = keyOf(event)
    const command = key === null || isAnythingOpen() ? undefined : own.find((one) => one.key === key)
    if (!command || command.isOff?.()) return
    event.preventDefault()
    command.act()
  }
  onMounted(() => {
    told.add(own)
    window.addEventListener('keydown', onKey)
    markPage()
  })
  onBeforeUnmount(() => {
    told.delete(own)
    window.removeEventListener('keydown', onKey)
  })
}

/** @returns null for what is no key of ours: it belongs to the browser, or to what is being typed */
export function keyOf(event: KeyboardEvent): string | null {
  if (event.defaultPrevented || event.altKey || isTyping(event.target)) return null
  if (event.ctrlKey || event.metaKey) return event.key.toLowerCase() === 'z' ? (event.shiftKey ? 'U' : 'u') : null
  return hasSingleKeys.value || event.key.length > 1 ? event.key : null
}

/** A dialog or a menu, in which the same keys mean something else; what only tells does not count. */
function isAnythingOpen(): boolean {
  return document.querySelector('.v-overlay--active:is(.v-dialog, .v-menu)') !== null
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}
