import { type MaybeRefOrGetter, toValue, watchEffect } from 'vue'

/** Names the page in its tab and in the history. */
export function useTitle(title: MaybeRefOrGetter<string | null | undefined>): void {
  watchEffect(() => {
    const name = toValue(title)
    document.title = name ? `${name} · Dime Gate` : 'Dime Gate'
  })
}
