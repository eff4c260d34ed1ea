/** Pasted text as rows of cells, by whatever stands between them. */
import { type Delimiter, recordsOfText } from '../table/read-records'

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
    // `70 Good`: what looks like a threshold, then the rest.
    (all) => all.map((line) => { const [, threshold, label] = /^([-<>≤≥=+.\d,%–—\s]*\d[\d.,%+]*)\s+(\D.*)$/.exec(line.trim()) ?? []; return threshold && label ? [threshold, label] : [line] }),
  ]
  for (const [at, way] of ways.entries()) {
    const rows = way(lines)
    const width = rows[0]?.length ?? 0
    // Tabs, semicolons and bars stand for nothing else, so lines that are uneven with them are just uneven.
    const isSure = at < 3 && widths(rows) > lines.length / 2
    if (isSure || (width > 1 && rows.every((row) => row.length === width))) return rows
  }
  // Where lines are uneven, the commonest sign still tells what was meant, and the uneven line is told.
  const [best] = ways.slice(3, 5).map((way) => way(lines)).toSorted((a, b) => widths(b) - widths(a))
  return best && widths(best) > lines.length / 2 ? best : lines.map((line) => [line])
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
