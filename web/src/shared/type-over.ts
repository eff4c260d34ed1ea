/** What stands in a field that looks for one of several is what was chosen: whoever begins to type there looks for another. */
export function typeOverChoices(): void {
  document.addEventListener('focusin', ({ target }) => {
    if (!(target instanceof HTMLInputElement) || !target.closest('.v-autocomplete')) return
    // A press of the pointer puts the caret in its place only after this.
    requestAnimationFrame(() => document.activeElement === target && target.select())
  })
}
