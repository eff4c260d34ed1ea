/** A list of values with their labels, as it is pasted from two columns. */

export interface PastedList {
  pairs: [value: string, label: string][]
  /** Lines that have no two columns, by their number. */
  odd: { line: number; text: string }[]
}

const SEPARATORS = ['\t', ';', ',', '=', ':'] as const

/** Columns are parted by what parts most lines: tabs before semicolons, commas, and signs that people write. Empty lines count for nothing. */
export function readPastedList(text: string, hasHead: boolean): PastedList {
  const lines = text.split(/\r\n|\r|\n/).map((line, at) => ({ line: at + 1, text: line })).filter((line) => line.text.trim() !== '')
  const separator = SEPARATORS.map((sign) => ({ sign, lines: lines.filter((line) => line.text.includes(sign)).length })).reduce((best, one) => (one.lines > best.lines ? one : best)).sign
  const pairs: PastedList['pairs'] = []
  const odd: PastedList['odd'] = []
  for (const line of hasHead ? lines.slice(1) : lines) {
    const at = line.text.indexOf(separator)
    const [value, label] = at < 0 ? ['', ''] : [line.text.slice(0, at), line.text.slice(at + separator.length)]
    // Further columns are of no interest.
    const [wanted = ''] = separator === '\t' || separator === ';' ? label!.split(separator) : [label!]
    if (plain(value!) && plain(wanted)) pairs.push([plain(value!), plain(wanted)])
    else odd.push(line)
  }
  return { pairs, odd }
}

/** Quotes around a whole cell are none of its own. */
function plain(cell: string): string {
  const text = cell.trim()
  return (/^"(.*)"$/s.exec(text)?.[1]?.replaceAll('""', '"') ?? text).replace(/\s+/g, ' ').trim()
}

/** Whether the first line is more likely a head: what stands there is no value of the table, while others are. */
export function seemsToHaveHead(text: string, isValue: (value: string) => boolean): boolean {
  const { pairs } = readPastedList(text, false)
  const [first, ...others] = pairs
  return first !== undefined && !isValue(first[0]) && others.some(([value]) => isValue(value))
}
