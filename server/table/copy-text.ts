/** Values in the text format of PostgreSQL's COPY. */

const SPECIAL = /[\\\t\n\r]/
const ESCAPES: Record<string, string> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r', b: '\b', f: '\f', v: '\v', t: '\t', n: '\n', r: '\r' }

export const COPY_NULL = '\\N'

export function toCopyText(text: string): string {
  return SPECIAL.test(text) ? text.replace(/[\\\t\n\r]/g, (character) => ESCAPES[character]!) : text
}

export function fromCopyText(field: string): string | null {
  if (field === COPY_NULL) return null
  return field.includes('\\') ? field.replace(/\\(.)/gs, (_, character: string) => (character === '\\' ? '\\' : ESCAPES[character] ?? character)) : field
}

/** The lines of a COPY's output, each as its fields. No value holds a bare line feed or tab: they come escaped. */
export async function* copyLines(source: AsyncIterable<Buffer>): AsyncGenerator<string[][]> {
  let rest = ''
  const decoder = new TextDecoder()
  for await (const piece of source) {
    const lines = (rest + decoder.decode(piece, { stream: true })).split('\n')
    rest = lines.pop()!
    yield lines.map((line) => line.split('\t'))
  }
}
