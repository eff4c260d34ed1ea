import type { ObjectDirective } from 'vue'

/** As much of a field as is looked at. */
export type Field = Pick<HTMLInputElement, 'value'> & { ownerDocument: { activeElement: unknown } }

/** By field, what was last put into it. */
const held = new WeakMap<Field, string>()

const isBeingTyped = (field: Field): boolean => field.ownerDocument.activeElement === field && field.value !== held.get(field)

/** Puts a text into a field, unless somebody is typing something else there. */
export function stand(field: Field, text: string): void {
  if (field.value === text || !isBeingTyped(field)) put(field, text)
}

/** Whatever is being typed there. */
export function put(field: Field, text: string): void {
  held.set(field, text)
  if (field.value !== text) field.value = text
}

/**
 * What stands in a field that tells its change at the end: `v-stands="name"` in place of `:value="name"`,
 * which puts the old text back whenever anything else of its component is drawn anew, in the middle of a word.
 */
export const vStands: ObjectDirective<HTMLInputElement | HTMLTextAreaElement, string> = {
  mounted: (field, { value }) => stand(field, value),
  updated: (field, { value }) => stand(field, value),
}
