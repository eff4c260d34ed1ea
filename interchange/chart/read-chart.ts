/** A chart of thresholds, as it is pasted or stands in a table: two or more columns, in any order, to a scale. */
import type { Entry, OutcomeColumn, ScaleGate } from '@dime-gate/core/gate/document'
import { nameTrouble } from '@dime-gate/core/expression/names'
import { markFor } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { givenNumber } from '@dime-gate/core/gate/scale-gate'
import { readHeader, suggestDecimalMark } from '@dime-gate/core/table/suggest-column'
import { compareDecimals, type DecimalText } from '@dime-gate/core/value/number'
import type { DecimalMark } from '@dime-gate/core/value/read-number'
import { readNumber } from '@dime-gate/core/value/read-number'
import { bandsFrom, type ChartLine } from './bands-from-lines'
import { cellsOf } from './cells-of-text'
import { type ReadThreshold, readThreshold } from './read-threshold'
import { type ChartRemark, remark } from './remark'

export interface ChartOptions {
  /** The gate's name. */
  name: string
  /** The input's, where the chart's header does not say. */
  input?: string
  /** The lowest value that will be labelled, where it is known: the chart should reach down to it. */
  lowest?: DecimalText
}

export interface ReadChart {
  /** Null where a remark is an error. */
  scale: ScaleGate | null
  remarks: ChartRemark[]
}

/** More lines than anybody charts. */
const MOST_LINES = 200

/** @param chart text as pasted, or cells by row */
export function readChart(chart: string | readonly (readonly string[])[], options: ChartOptions): ReadChart {
  const rows = (typeof chart === 'string' ? cellsOf(chart) : chart).map((row) => row.map((cell) => cell.trim()))
  const filled = rows.map((cells, at) => ({ cells, row: at + 1 })).filter(({ cells }) => cells.some((cell) => cell !== ''))
  const failed = (code: ChartRemark['code'], message: string, row: number | null = null, column: number | null = null): ReadChart => ({ scale: null, remarks: [remark(code, 'error', message, row, column)] })
  if (filled.length === 0) return failed('empty', 'There is nothing here. Paste a chart of thresholds and labels.')
  if (filled.length > MOST_LINES) return failed('too long', `The chart has ${filled.length} lines; at most ${MOST_LINES} are read.`, filled[MOST_LINES]!.row)
  const width = Math.max(...filled.map(({ cells }) => cells.length))
  const split = width < 2 ? labelsBeside(filled) : null
  if (split) return new Chart(split, 2, options).read()
  if (width < 2) return failed('one column', 'The chart has one column. It needs two: the thresholds, and the label for each.', filled[0]!.row)
  const { lines, beside } = withoutTalk(filled)
  const ragged = lines.find(({ cells }) => cells.length !== width)
  if (ragged) return failed('uneven lines', `This line has ${ragged.cells.length} columns where others have ${width}.`, ragged.row, Math.min(ragged.cells.length, width) + 1)
  const { scale, remarks } = new Chart(lines, width, options).read()
  return { scale, remarks: [...remarks, ...beside.map(({ cells, row }) => remark('beside the chart', 'note', `“${cells.find((cell) => cell !== '')!.slice(0, 80)}” is taken for a remark of the chart and left out.`, row))] }
}

/** The lines of a chart, and those above and below it that are a title or a note: one cell alone, of words. */
function withoutTalk(rows: readonly Row[]): { lines: Row[]; beside: Row[] } {
  const filled = ({ cells }: Row) => cells.filter((cell) => cell !== '')
  const isWide = (row: Row) => filled(row).length > 1
  const [first, last] = [rows.findIndex(isWide), rows.findLastIndex(isWide)]
  const lines = rows.slice(Math.max(first, 0), last + 1)
  // A word alone may be a label whose threshold was forgotten, and a threshold one whose label was.
  const isTalk = (row: Row, isAbove: boolean) => filled(row).length === 1 && readThreshold(filled(row)[0]!, 'point') === null && (/\s/.test(filled(row)[0]!) || (isAbove && !/\d/.test(filled(row)[0]!)))
  const [above, below] = [rows.slice(0, Math.max(first, 0)), rows.slice(last + 1)]
  const isAside = lines.length > 1 && above.every((row) => isTalk(row, true)) && below.every((row) => isTalk(row, false))
  return isAside ? { lines, beside: [...above, ...below] } : { lines: [...rows], beside: [] }
}

/** Nobody writes a threshold as long as this, and patterns take long over long texts. */
const LONGEST_CELL = 400

/** `A 90–100` or `A (90–100)`, line by line; null where a line is of another kind. */
function labelsBeside(rows: readonly Row[]): Row[] | null {
  const split = rows.map(({ cells, row }): Row | null => {
    if (cells[0]!.length > LONGEST_CELL) return null
    const [, label, threshold] = /^(.*\S)\s*\(([^()]*\d[^()]*)\)$/.exec(cells[0]!) ?? /^(\D*[^\d\s<>≤≥=+–—-])\s+((?:[<>≤≥=+–—-]\s*)*\d.*)$/.exec(cells[0]!) ?? []
    return label && threshold ? { cells: [label, threshold], row } : null
  })
  return split.includes(null) ? null : (split as Row[])
}

interface Row {
  cells: readonly string[]
  row: number
}

class Chart {
  private readonly mark: DecimalMark
  private readonly remarks: ChartRemark[] = []

  constructor(private readonly rows: readonly Row[], private readonly width: number, private readonly options: ChartOptions) {
    this.mark = suggestDecimalMark(rows.flatMap(({ cells }) => cells).flatMap((cell) => cell.match(/[-+]?\d[\d.,]*/g) ?? []))
  }

  read(): ReadChart {
    const found = this.thresholdColumns()
    if (!found) return this.without()
    const { columns, hasHeader } = found
    const header = hasHeader ? this.rows[0]! : null
    const body = hasHeader ? this.rows.slice(1) : this.rows
    const others = Array.from({ length: this.width }, (_, at) => at).filter((at) => !columns.includes(at))
    const head = header ? readHeader(header.cells[columns[0]!]!) : { name: '', unit: '', fullMarks: null }
    const [units, names] = [new Set<string>(), new Set<string>()]
    const lines = body.flatMap((row) => this.line(row, columns, others, units, names))
    if (names.size > 1) this.note('several things', 'error', `The thresholds are of ${[...names].slice(0, 3).join(' and of ')}. A chart is of one thing; write what it is above the thresholds, and labels in a column of their own.`, null, columns[0]! + 1)
    if (units.size > 1) this.note('mixed units', 'error', `Some thresholds are in ${[...units].join(', others in ')}. Write all of them alike.`, null, columns[0]! + 1)
    const isUpper = header !== null && columns.length === 1 && UPPER.test(header.cells[columns[0]!]!)
    const bands = bandsFrom(lines, isUpper, this.options.lowest ?? null)
    this.remarks.push(...bands.remarks)
    if (!bands.parts || this.remarks.some(({ severity }) => severity === 'error')) return { scale: null, remarks: this.remarks }
    const { parts, otherwise } = bands
    const outcomes = this.outcomes(others, header, [...parts.bands, ...(otherwise ? [otherwise] : [])])
    const entries = (texts: readonly string[] | null): Entry[] => outcomes.map(({ type }, at) => {
      const text = texts?.[at] ?? ''
      return text === '' ? null : { is: type === 'number' ? this.number(text)! : text }
    })
    const input = givenNumber(this.inputName(head.name, ...names), [...units][0] ?? head.unit)
    return {
      remarks: this.remarks,
      scale: {
        schema: 1, form: 'scale', name: this.options.name, inputs: [input], on: input.name, cuts: parts.cuts, floor: parts.floor, ceiling: parts.ceiling,
        outcomes, bands: parts.bands.map((texts) => ({ entries: entries(texts) })), otherwise: otherwise && entries(otherwise),
      },
    }
  }

  private note(...parts: Parameters<typeof remark>): void {
    this.remarks.push(remark(...parts))
  }

  private number(text: string): string | null {
    const read = readNumber(text, this.mark)
    return read.state === 'readable' ? read.value : null
  }

  private threshold(cell: string): ReadThreshold | null {
    return readThreshold(cell, this.mark)
  }

  /** The column of thresholds, or the two of where bands begin and end; those with ranges and signs come before bare numbers. */
  private thresholdColumns(): { columns: number[]; hasHeader: boolean } | null {
    const candidates = Array.from({ length: this.width }, (_, at) => at).flatMap((at) => {
      const read = this.rows.map(({ cells }) => this.threshold(cells[at]!))
      const hasHeader = read[0] === null && read.length > 1 && !looksLikeThreshold(this.rows[0]!.cells[at]!)
      const body = hasHeader ? read.slice(1) : read
      const missing = body.filter((one) => one === null).length
      // A chart of which most can be read is a chart with mistakes; of a column of labels nothing can.
      if (missing > body.length / 3 || body.length === missing) return []
      const isWritten = body.some((one) => one?.threshold.kind === 'interval')
      return [{ at, hasHeader, isWritten, isBare: body.every((one, row) => one?.threshold.kind === 'number' || this.rows[row + (hasHeader ? 1 : 0)]!.cells[at] === '') }]
    })
    const written = candidates.find(({ isWritten }) => isWritten)
    if (written) return { columns: [written.at], hasHeader: written.hasHeader }
    const [first, second] = candidates
    if (!first) return null
    if (second && first.isBare && second.isBare && this.areFromAndTo(first.at, second.at, first.hasHeader)) return { columns: [first.at, second.at], hasHeader: first.hasHeader }
    // Both columns may be numbers; then a header may tell which it is on, or which are the points that a band gives.
    const header = this.rows[0]!.cells
    const isGiven = (at: number) => first.hasHeader && /points?|score given|rank|grade|label|result/i.test(header[at]!)
    const isNamed = (at: number) => first.hasHeader && readHeader(header[at]!).name.toLowerCase() === this.options.input?.toLowerCase()
    const chosen = candidates.find(({ at }) => isNamed(at)) ?? candidates.find(({ at }) => !isGiven(at)) ?? first
    return { columns: [chosen.at], hasHeader: chosen.hasHeader }
  }

  private areFromAndTo(from: number, to: number, hasHeader: boolean): boolean {
    if (this.width < 3) return false
    const pairs = this.rows.slice(hasHeader ? 1 : 0).map(({ cells }) => [this.number(cells[from]!), this.number(cells[to]!)])
    // The highest band may have no end, and the lowest no beginning.
    const whole = pairs.filter((pair) => !pair.includes(null)) as [string, string][]
    const isEmpty = (column: number, row: number) => this.rows.slice(hasHeader ? 1 : 0)[row]!.cells[column] === ''
    if (pairs.some(([low, high], row) => (low === null && !isEmpty(from, row)) || (high === null && !isEmpty(to, row)) || (low === null && high === null))) return false
    if (pairs.length - whole.length > 2 || whole.length === 0) return false
    const sorted = whole.toSorted(([a], [b]) => compareDecimals(a, b))
    return sorted.every(([low, high], at) => compareDecimals(low, high) <= 0 && (at === 0 || compareDecimals(sorted[at - 1]![1], low) <= 0))
  }

  private line({ cells, row }: Row, columns: readonly number[], others: readonly number[], units: Set<string>, names: Set<string>): ChartLine[] {
    const [first, second] = columns
    const read = this.threshold(cells[first!]!)
    const end = second === undefined ? null : this.threshold(cells[second]!)
    const openEnds = { low: read?.threshold.kind === 'number' ? { at: read.threshold.at, included: true } : null, high: end?.threshold.kind === 'number' ? { at: end.threshold.at, included: true } : null }
    if (second !== undefined && (cells[first!] === '' || cells[second] === '')) {
      for (const unit of [read?.unit, end?.unit]) if (unit) units.add(unit)
      return [{ row, texts: others.map((at) => cells[at]!), threshold: { kind: 'interval', ...openEnds } }]
    }
    if (!read) {
      this.note('unreadable', 'error', `“${cells[first!]}” is no threshold, such as 50, 50–64, 65+ or < 20.`, row, first! + 1)
      return []
    }
    if (read.unit !== '') units.add(read.unit)
    if (read.name !== '') names.add(read.name)
    const texts = others.map((at) => cells[at]!)
    const to = second === undefined ? null : this.number(cells[second]!)
    if (to !== null && read.threshold.kind === 'number') return [{ row, texts, threshold: { kind: 'interval', low: { at: read.threshold.at, included: true }, high: { at: to, included: true } } }]
    return [{ row, texts, threshold: read.threshold }]
  }

  private outcomes(others: readonly number[], header: Row | null, bands: readonly (readonly string[] | null)[]): OutcomeColumn[] {
    const taken = new Set<string>()
    return others.map((column, at): OutcomeColumn => {
      const values = [...new Set(bands.flatMap((texts) => texts?.[at] || []))]
      const type = at > 0 && values.length > 0 && values.every((text) => this.number(text) !== null) ? 'number' : 'text'
      const colours = paletteColours('ordered', values.length)
      const labels = at === 0 ? values.map((value, index) => ({ value, colour: colours[index]!, mark: markFor(index), rank: null })) : []
      return { name: freeName(header?.cells[column] || (at === 0 ? 'Label' : `Outcome ${at + 1}`), taken), type, labels }
    })
  }

  /** @param told names that the chart itself has for it, what its header says first */
  private inputName(...told: readonly string[]): string {
    const isName = (name: string) => name !== '' && !nameTrouble(name) && !UPPER.test(name) && !/^(from|min|threshold|cut|score band|range)\b/i.test(name)
    return this.options.input ?? told.find(isName) ?? 'Value'
  }

  /** No column is one of thresholds: what stands nearest to one is told. */
  private without(): ReadChart {
    const body = this.rows.length > 1 ? this.rows.slice(1) : this.rows
    return { scale: null, remarks: [remark('no thresholds', 'error', 'No column holds thresholds, such as 50, 50–64, 65+ or < 20.', body[0]!.row)] }
  }
}

/** A head that begins as a threshold does is a line of the chart that cannot be read. */
function looksLikeThreshold(cell: string): boolean {
  return /^[<>≤≥=([+–—-]*\s*\d/.test(cell) || /[<>≤≥]/.test(cell)
}

/** A name that no result has yet. */
function freeName(name: string, taken: Set<string>): string {
  let free = name
  for (let next = 2; taken.has(free); next++) free = `${name} ${next}`
  taken.add(free)
  return free
}

/** A header that says that its numbers are where bands end. */
const UPPER = /\b(up to|upto|to|max|maximum|until|below|under|less than|upper)\b/i
