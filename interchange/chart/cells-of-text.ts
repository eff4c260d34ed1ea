/** Pasted text as rows of cells, by whatever stands between them. */
import { type Delimiter, recordsOfText } from '../table/read-records'
import { readThreshold } from './read-threshold'

const LONGEST = 200_000
const LONGEST_LINE = 4000

/** One row a line, an empty one for an empty line. A text of one column comes back as such. */
export function cellsOf(text: string): string[][] {
  const lines = text.slice(0, LONGEST).split(/\r\n|\r|\n/)
  const filled = lines.filter((line) => line.trim() !== '')
  const rows = rowsOf(filled)
  let next = 0
  return lines.map((line) => (line.trim() === '' ? [] : rows[next++]!))
}

function rowsOf(lines: string[]): string[][] {
  // A line like that is no chart's, and patterns take long over it.
  if (lines.some((line) => line.length > LONGEST_LINE)) return lines.map((line) => [line])
  const ways: ((line: string[]) => string[][])[] = [
    (all) => delimited(all, '\t'), (all) => delimited(all, ';'), piped, spaced, (all) => delimited(all, ','),
    (all) => all.map((line) => line.split(/\s*(?::|->|→)\s+|\s+=\s+/)),
    (all) => all.map(thresholdFirst),
  ]
  for (const [at, way] of ways.entries()) {
    const rows = way(lines)
    const width = rows[0]?.length ?? 0
    // Tabs, semicolons and bars stand for nothing else, so lines that are uneven with them are just uneven.
    const isSure = at < 3 && widths(rows) > 1 && widths(rows) >= lines.length / 2
    if (isSure || (width > 1 && rows.every((row) => row.length === width))) return rows
  }
  // Where lines are uneven, the commonest sign still tells what was meant, and the uneven line is told.
  const [best] = ways.slice(3).map((way) => way(lines)).toSorted((a, b) => widths(b) - widths(a))
  if (!best || widths(best) <= lines.length / 2) return lines.map((line) => [line])
  // Heads of a word each stand beside each other as anything does.
  const heads = lines[0]!.trim().split(/\s+/)
  return best[0]!.length === 1 && best.slice(1).every(({ length }) => length === heads.length) && !/\d/.test(lines[0]!) ? [heads, ...best.slice(1)] : best
}

/** More words than a threshold is written in. */
const MOST_WORDS = 8

/** `70 Good`, `70 and over very good`: as many words as make a threshold, then the rest. */
function thresholdFirst(line: string): string[] {
  const words = line.trim().split(/\s+/)
  for (let length = Math.min(MOST_WORDS, words.length - 1); length > 0; length--) {
    const written = words.slice(0, length).join(' ')
    const read = readThreshold(written, 'point') ?? readThreshold(written, 'comma')
    // A word behind a number is its unit only where nothing else could be meant.
    if (read && read.threshold.kind !== 'otherwise' && !/\p{L}/u.test(read.unit)) return [written, words.slice(length).join(' ')]
  }
  return [line]
}

function widths(rows: readonly string[][]): number {
  return rows.filter((row) => row.length > 1).length
}

function delimited(lines: readonly string[], delimiter: Delimiter): string[][] {
  return lines.map((line) => recordsOfText(line, delimiter).records[0] ?? [line])
}

/** Cells between bars; a line of dashes below the header holds nothing. */
function piped(lines: readonly string[]): string[][] {
  return lines.map((line) => line.trim().replace(/^\||\|$/g, '').split('|').map((cell) => (/^[|\s:-]+$/.test(line) ? '' : cell)))
}

function spaced(lines: readonly string[]): string[][] {
  return lines.map((line) => line.trim().split(/\s{2,}/))
}
