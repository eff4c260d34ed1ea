/** How the lines of delimited text are set out, told by its first ones: what stands between values, and what stands above the table. */
import { type Delimiter, DELIMITERS, recordsOfText } from './read-records'

const PROBED_LINES = 40
/** Lines above a table: a title, a date, who made it. */
const MOST_ABOVE = 10
/** Wider tables are none, and lines that wide are not looked at for a layout. */
const MOST_VALUES = 16_000
/** The share of the filled values of an ordinary line that the first line of a table has at least. */
const ENOUGH = 0.6

/** The first lines, each with as many values as it has itself; empty ones left out. */
export function probedRows(text: string, delimiter: Delimiter): string[][] {
  const probe = text.split(/\r\n|\r|\n/, PROBED_LINES).join('\n')
  let width = 0
  for (const line of probe.split('\n')) width = Math.max(width, line.split(delimiter).length)
  if (width > MOST_VALUES) return []
  // One value more than any line has tells the blanks at their ends from those that are put there.
  const { records } = recordsOfText(probe, delimiter, true, { width: width + 1, isPadded: true })
  return records.map((record) => trimmed(record))
}

function trimmed(record: string[]): string[] {
  let width = record.length
  while (width > 1 && record[width - 1] === '') width--
  return record.slice(0, width)
}

/** Values of the first line behind those that are left out; fewer where its last ones name nothing, and no line has anything there. */
export function detectWidth(text: string, delimiter: Delimiter, skip: number): number {
  const [first] = recordsOfText(text.split(/\r\n|\r|\n/, PROBED_LINES).join('\n'), delimiter, true, { skip }).records
  if (!first) return 0
  const others = probedRows(text, delimiter).slice(skip + 1)
  let width = first.length
  while (width > 1 && first[width - 1]!.trim() === '' && others.every((row) => (row[width - 1] ?? '').trim() === '')) width--
  return width
}

/** The delimiter under which the most lines are alike in having many values. */
export function detectDelimiter(text: string): Delimiter {
  let best: { delimiter: Delimiter; score: number } = { delimiter: ',', score: 0 }
  for (const delimiter of DELIMITERS) {
    const widths = probedRows(text, delimiter).map((row) => row.length)
    const width = usual(widths)
    // Half the lines alike by chance weigh little against all of them.
    const score = width > 1 ? (width - 1) * (widths.filter((one) => one === width).length / widths.length) ** 2 : 0
    if (score > best.score) best = { delimiter, score }
  }
  return best.delimiter
}

/** How many lines stand above the table: those before the first that is as filled as the lines of a table are. */
export function detectSkip(rows: readonly string[][]): number {
  const filled = rows.map((row) => row.filter((text) => text.trim() !== '').length)
  const widths = rows.map((row) => row.length)
  const ordinary = usual(widths)
  // One line more than others is no table yet.
  if (ordinary < 2 || widths.filter((width) => width === ordinary).length < 2) return 0
  const first = filled.findIndex((count) => count >= Math.max(2, ENOUGH * ordinary))
  return first > 0 && first <= MOST_ABOVE ? first : 0
}

/** The commonest; of several, the largest. */
function usual(numbers: readonly number[]): number {
  const times = new Map<number, number>()
  for (const number of numbers) times.set(number, (times.get(number) ?? 0) + 1)
  let best = 0
  for (const [number, count] of times) if (count > (times.get(best) ?? 0) || (count === times.get(best) && number > best)) best = number
  return best
}
