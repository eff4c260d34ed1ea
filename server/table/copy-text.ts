/** Values in the text format of PostgreSQL's COPY. */

const SPECIAL = /[\\\t\n\r]/
const ESCAPES: Record<string, string> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' }

export const COPY_NULL = '\\N'

export function toCopyText(text: string): string {
  return SPECIAL.test(text) ? text.replace(/[\\\t\n\r]/g, (character) => ESCAPES[character]!) : text
}
