/** Records whose values have names, on their way to plain text: columns come as their names are met, one after the other. */
import { fileError } from '../table/problem'
import { type PlainRows, plainRows } from '../table/plain-rows'
import type { ColumnPlan } from '../table/settings'

export type KeyedKind = 'text' | 'number' | 'truth'

export interface PlainKeyed {
  /** The line of names, which comes before all that was written. */
  head: Uint8Array
  width: number
  records: number
  declared: (Partial<ColumnPlan> | null)[]
}

const MOST_COLUMNS = 1200
const PIECE = 1 << 18
/** Texts that a date could be are looked at, so that a column of them is not taken for texts. */
const DATE_LIKE = /^\s*\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/
const [TAB, RETURN, SPACE, HYPHEN, SLASH, NINE] = [0x09, 0x0d, 0x20, 0x2d, 0x2f, 0x39]

/** The same of bytes, without a text for each. */
export function isDateLike(bytes: Uint8Array, start: number, end: number): boolean {
  let at = start
  while (at < end && (bytes[at] === SPACE || (bytes[at]! >= TAB && bytes[at]! <= RETURN))) at++
  const year = pastDigits(bytes, at, Math.min(end, at + 4))
  if (year === at || !isSign(bytes, year, end)) return false
  const month = pastDigits(bytes, year + 1, Math.min(end, year + 3))
  return month > year + 1 && isSign(bytes, month, end) && pastDigits(bytes, month + 1, end) > month + 1
}

function pastDigits(bytes: Uint8Array, start: number, end: number): number {
  let at = start
  while (at < end && bytes[at]! > SLASH && bytes[at]! <= NINE) at++
  return at
}

/** A hyphen, a point or a slash, which follow one another. */
function isSign(bytes: Uint8Array, at: number, end: number): boolean {
  return at < end && bytes[at]! >= HYPHEN && bytes[at]! <= SLASH
}

export class KeyedRows {
  private readonly places = new Map<string, number>()
  private readonly rows: PlainRows = plainRows()
  private records = 0
  /** By column, of which kinds it holds values: texts that no date could be, numbers, and truths. */
  private readonly kinds: Set<KeyedKind>[] = []

  /** Of the record that is being written: where in which bytes the values lie, or their texts. */
  private readonly sources: (Uint8Array | null)[] = []
  private starts = new Int32Array(64)
  private ends = new Int32Array(64)
  private readonly texts: (string | null)[] = []
  private last = -1

  constructor(
    private readonly write: (piece: Uint8Array) => void,
    private readonly told: (records: number) => void,
  ) {}

  /** The place of a name among the columns, a new one where it was not met before. */
  place(name: string): number {
    const known = this.places.get(name)
    if (known !== undefined) return known
    const place = this.places.size
    if (place >= MOST_COLUMNS)
      throw fileError(
        'too-many-columns',
        `Record ${this.records + 1} has a value named “${name.slice(0, 60)}”, and there are ${MOST_COLUMNS} other names already; a table holds no more columns.`,
        this.records + 1,
        place + 1,
      )
    this.places.set(name, place)
    this.kinds.push(new Set())
    if (place >= this.starts.length) [this.starts, this.ends] = [doubled(this.starts), doubled(this.ends)]
    this.sources[place] = null
    this.texts[place] = null
    return place
  }

  /** A value that lies in bytes of UTF-8, which stay as they are until its record ends. */
  span(place: number, bytes: Uint8Array, start: number, end: number, kind: KeyedKind): void {
    this.sources[place] = bytes
    this.starts[place] = start
    this.ends[place] = end
    this.said(place, kind === 'text' && isDateLike(bytes, start, end) ? null : kind)
  }

  text(place: number, text: string, kind: KeyedKind): void {
    this.texts[place] = text
    this.said(place, kind === 'text' && DATE_LIKE.test(text) ? null : kind)
  }

  private said(place: number, kind: KeyedKind | null): void {
    if (kind) this.holds(place, kind)
    if (place > this.last) this.last = place
  }

  holds(place: number, kind: KeyedKind): void {
    this.kinds[place]!.add(kind)
  }

  /**
   * A whole record at once, of values that lie in bytes of UTF-8.
   * @param starts by place; where one lies at nothing it is a blank
   * @param isQuoted by place, 1 for one that needs marks of quotation, and holds none itself
   * @param width of the record, whose others are blanks
   */
  record(bytes: Uint8Array, starts: Int32Array, ends: Int32Array, isQuoted: Uint8Array, width: number): void {
    if (width === 0) this.rows.text('')
    else this.rows.values(bytes, starts, ends, isQuoted, width)
    this.endRow()
  }

  endRecord(): void {
    const { rows, sources, texts } = this
    for (let place = 0; place <= this.last; place++) {
      const text = texts[place]!
      const source = sources[place]!
      if (text !== null) rows.text(text)
      else if (source !== null) rows.bytes(source, this.starts[place]!, this.ends[place]!)
      else rows.text('')
      texts[place] = sources[place] = null
    }
    if (this.last < 0) rows.text('')
    this.last = -1
    this.endRow()
  }

  private endRow(): void {
    const { rows } = this
    rows.endRow()
    this.records++
    if (rows.size < PIECE) return
    this.write(rows.take())
    this.told(this.records)
  }

  finish(): PlainKeyed {
    this.write(this.rows.take())
    const head = plainRows()
    for (const name of this.places.keys()) head.text(name)
    head.endRow()
    // A value between marks of quotation is a text, whatever it looks like, unless it is a date, for which there is no other way.
    const declared = this.kinds.map((kinds): Partial<ColumnPlan> | null => (kinds.size === 1 && kinds.has('text') ? { type: 'text' } : null))
    return { head: head.take(), width: this.places.size, records: this.records, declared }
  }
}

function doubled(numbers: Int32Array): Int32Array<ArrayBuffer> {
  const wider = new Int32Array(2 * numbers.length)
  wider.set(numbers)
  return wider
}
