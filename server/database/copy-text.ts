/** Values in the text format of PostgreSQL's COPY. */

const SPECIAL = /[\\\t\n\r]/
const ESCAPES: Record<string, string> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' }

export const COPY_NULL = '\\N'

export function toCopyText(text: string): string {
  return SPECIAL.test(text) ? text.replace(/[\\\t\n\r]/g, (character) => ESCAPES[character]!) : text
}

const UNESCAPES: Record<string, string> = { t: '\t', n: '\n', r: '\r', b: '\b', f: '\f', v: '\v' }

/** A field as COPY writes it; null where there is no value. */
export function fromCopyText(field: string): string | null {
  if (field === COPY_NULL) return null
  return field.includes('\\') ? field.replace(/\\(.)/gs, (_, character: string) => UNESCAPES[character] ?? character) : field
}
