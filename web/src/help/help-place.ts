/** Where help begins: at what is on the page, where the page knows that better than its address. */
import { onScopeDispose, ref, watchEffect } from 'vue'

/** As in `using#rules`; empty where nobody says so. */
export const helpPlace = ref('')

/** @param place null as long as the page does not know */
export function useHelpPlace(place: () => string | null): void {
  watchEffect(() => (helpPlace.value = place() ?? ''))
  onScopeDispose(() => (helpPlace.value = ''))
}
