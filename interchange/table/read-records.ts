/** Delimited text (RFC 4180, and its kin with other delimiters) to records, piece by piece. */
import Papa from 'papaparse'
import { type FileProblem, fileProblem } from './problem'

export const DELIMITERS = [',', ';', '\t', '|'] as const
export type Delimiter = (typeof DELIMITERS)[number]

/** A quote left open swallows the rest of a file; past this many characters one value is not a value. */
const LONGEST_VALUE = 1_000_000

export interface RecordReader {
  /** The records that are complete with this piece of text; none any more after a problem. */
  push(text: string): string[][]
  end(): string[][]
  /** What stopped the reading: `ragged` or `open-quote`, with the line, and the column where values end or exceed. */
  problem(): FileProblem | null
}

/**
 * Reads records; every one has as many values as the first.
 * Empty lines are passed over, except in a table of one column, where they are blanks.
 */
export function recordReader(delimiter: Delimiter): RecordReader {
  let rest = ''
  let line = 1
  let width = 0
  let newline: string | null = null
  let problem: FileProblem | null = null

  const read = (text: string, last: boolean): string[][] => {
    if (problem) return []
    rest += text
    newline ??= lineEnd(rest, last)
    if (newline === null) return []
    if (rest === '') return []
    const { data, errors, meta } = parserFor(delimiter, newline).parse(rest, 0, !last)
    const open = last && errors.find((error) => error.code === 'MissingQuotes')
    const firstLine = line
    if (open) {
      const at = lineAt(data, firstLine, open.row ?? data.length - 1)
      problem = fileProblem('open-quote', `A quotation mark opened in the record that begins on line ${at} is never closed. Close it, or double it if it belongs to the value.`, at, data.at(-1)?.length ?? null)
      data.pop()
    }
    const taken = last ? rest.length : meta.cursor
    line += countLines(rest, taken)
    rest = rest.slice(taken)
    if (rest.length > LONGEST_VALUE) {
      problem = fileProblem('open-quote', `The record that begins on line ${line} goes on for more than a million characters: a quotation mark is probably never closed.`, line)
    }
    return checked(data, firstLine)
  }

  const checked = (records: string[][], firstLine: number): string[][] => {
    if (width === 0) width = records.find((record) => !isEmptyLine(record))?.length ?? 0
    let uneven = false
    for (const record of records) {
      if (record.length !== width || (width > 1 && record.length === 1)) {
        uneven = true
        break
      }
    }
    if (!uneven) return records
    const bad = records.findIndex((record) => record.length !== width && !isEmptyLine(record))
    if (bad >= 0) {
      const [found, at] = [records[bad]!.length, lineAt(records, firstLine, bad)]
      const what = found < width ? `stops after column ${found}` : `goes on past column ${width}`
      problem = fileProblem('ragged', `Line ${at} has ${found} ${found === 1 ? 'value' : 'values'} where the first line has ${width}: it ${what}. Mend that line, or choose another delimiter.`, at, Math.min(found, width) + 1)
    }
    return records.slice(0, bad < 0 ? undefined : bad).filter((record) => !isEmptyLine(record))
  }

  /** Records may run over several lines, so the line of a record is found by walking to it; only errors ask. */
  const lineAt = (records: string[][], firstLine: number, index: number): number =>
    records.slice(0, index).flat().reduce((line, value) => line + value.split(newline!).length - 1, firstLine + index)

  return { push: (text) => read(text, false), end: () => read('', true), problem: () => problem }

  function countLines(text: string, end: number): number {
    let lines = 0
    for (let at = text.indexOf(newline!); at >= 0 && at < end; at = text.indexOf(newline!, at + newline!.length)) lines++
    return lines
  }
}

/** The text that ends lines, or null while too little was seen to tell. */
function lineEnd(text: string, last: boolean): string | null {
  const feed = text.indexOf('\n')
  const carriage = text.indexOf('\r')
  if (carriage >= 0 && (feed < 0 || carriage < feed)) {
    if (text[carriage + 1] === '\n') return '\r\n'
    return carriage + 1 < text.length || last ? '\r' : null
  }
  return feed >= 0 || last ? '\n' : null
}

function isEmptyLine(record: string[]): boolean {
  return record.length === 1 && record[0] === ''
}

interface LowLevelParser {
  parse(text: string, base: number, ignoreLast: boolean): Papa.ParseResult<string[]>
}

function parserFor(delimiter: Delimiter, newline: string): LowLevelParser {
  const Parser = Papa.Parser as unknown as new (config: Papa.ParseConfig) => LowLevelParser
  return new Parser({ delimiter, newline: newline as '\n' })
}
