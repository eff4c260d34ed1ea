/**
 * Delimited text (RFC 4180, and its kin with other delimiters) to records, piece by piece. Works on bytes and
 * reads each of them once, however the file is cut into pieces and whether or not its lines ever end: a table
 * of a million records is brought in faster than its cells could be made into texts.
 */
import { type FileProblem, fileProblem } from './problem'
import { Records } from './records'

export const DELIMITERS = [',', ';', '\t', '|'] as const
export type Delimiter = (typeof DELIMITERS)[number]

/** Bytes of one value. A quotation mark left open swallows the rest of a file; past this a value is not a value. */
export const LONGEST_VALUE = 1_000_000
/** Bytes of one record. */
export const LONGEST_RECORD = 16_000_000
/** Values of one record; far more than a table can have. */
const MOST_VALUES = 16_384

export interface RecordReader {
  /** @param bytes the next of the file, in UTF-8. @returns the records that are complete with them; none any more after a problem */
  push(bytes: Uint8Array): Records
  end(): Records
  /** What stopped the reading, with the line, and the column where values end or exceed. */
  problem(): FileProblem | null
}

const [LINE_FEED, RETURN, QUOTE, SPACE] = [0x0a, 0x0d, 0x22, 0x20]
const BYTE_ORDER_MARK = [0xef, 0xbb, 0xbf]

/** Where in a value the reading stands. */
enum At {
  Start,
  Plain,
  Quoted,
  /** Behind a quotation mark in a quoted value: its end, or the first of two that stand for one. */
  Quote,
}

/** What is known of a file's records before they are read. */
export interface RecordLayout {
  /** Records before the first that counts: a title, a date, whatever is written above a table. They may have any width. */
  skip?: number
  /** Values in each record; otherwise as many as the first has. */
  width?: number | null
  /** Whether a record that ends early has blanks for the rest. */
  isPadded?: boolean
}

/**
 * Reads records; every one has as many values as the first, and blanks behind those do not count. Lines end in LF, CR LF or
 * CR, and need not all end alike. Empty lines are passed over, except in a table of one column, where they are blanks.
 */
export function recordReader(delimiter: Delimiter, layout: RecordLayout = {}): RecordReader {
  return new Reader(delimiter.charCodeAt(0), layout)
}

/** A text of which nothing more will come, or may come where it is not `isWhole`. */
export function recordsOfText(text: string, delimiter: Delimiter, isWhole = true, layout: RecordLayout = {}): { records: string[][]; problem: FileProblem | null } {
  const reader = recordReader(delimiter, layout)
  const records = reader.push(new TextEncoder().encode(text)).texts()
  if (isWhole) records.push(...reader.end().texts())
  return { records, problem: reader.problem() }
}

const NONE = new Records(new Uint8Array(), 0, 0, new Uint32Array(), new Uint32Array(), true)

class Reader implements RecordReader {
  private bytes = new Uint8Array()
  /** Bytes that are there, that were read, and the first that are still needed. */
  private used = 0
  private read = 0
  private needed = 0
  private hasBegun = false

  private at: At = At.Start
  private valueStart = 0
  /** Where the next byte of a quoted value goes: marks that stand for one move the rest together. */
  private valueEnd = 0
  private spaces = 0
  private wasReturn = false

  private starts = new Uint32Array(32)
  private ends = new Uint32Array(32)
  private values = 0
  /** Values of records that are complete. */
  private complete = 0
  private records = 0
  private high = 0

  private line = 1
  private recordLine = 1
  private width: number
  private skip: number
  private readonly isPadded: boolean
  private found: FileProblem | null = null

  constructor(private readonly delimiter: number, { skip = 0, width = null, isPadded = false }: RecordLayout) {
    this.width = width ?? 0
    this.skip = skip
    this.isPadded = isPadded
  }

  problem(): FileProblem | null {
    return this.found
  }

  push(bytes: Uint8Array): Records {
    if (this.found) return NONE
    this.forget()
    this.append(bytes)
    if (!this.hasBegun && !this.begin(false)) return this.taken()
    this.readOn()
    if (!this.found) this.checkLength()
    return this.taken()
  }

  end(): Records {
    if (this.found) return NONE
    this.forget()
    if (!this.hasBegun) this.begin(true)
    this.readOn()
    if (this.found) return this.taken()
    if (this.at === At.Quoted) {
      this.stop('open-quote', `A quotation mark opened in the record that begins on line ${this.recordLine} is never closed. Close it, or double it if it belongs to the value.`, this.recordLine, this.values - this.complete + 1)
    } else if (this.at !== At.Start || this.values > this.complete) {
      this.value(this.at === At.Start ? this.read : this.valueStart, this.at === At.Quote ? this.valueEnd : this.read)
      this.record(this.at === At.Quote)
    }
    return this.taken()
  }

  /** Lets go of what was given out, so that what is left stands at the beginning. */
  private forget(): void {
    const { needed } = this
    if (needed === 0) return
    this.bytes.copyWithin(0, needed, this.used)
    this.used -= needed
    this.read -= needed
    this.valueStart -= needed
    this.valueEnd -= needed
    for (let from = this.complete, to = 0; from < this.values; from++, to++) {
      this.starts[to] = this.starts[from]! - needed
      this.ends[to] = this.ends[from]! - needed
    }
    this.values -= this.complete
    this.complete = this.records = this.needed = this.high = 0
    for (let at = 0; at < this.read; at++) this.high |= this.bytes[at]!
  }

  private append(more: Uint8Array): void {
    if (this.used + more.length > this.bytes.length) {
      const wider = new Uint8Array(Math.max(this.used + more.length, 2 * this.bytes.length))
      wider.set(this.bytes.subarray(0, this.used))
      this.bytes = wider
    }
    this.bytes.set(more, this.used)
    this.used += more.length
  }

  /** Passes over a byte order mark. @returns whether there is enough to tell */
  private begin(isAll: boolean): boolean {
    if (this.used < BYTE_ORDER_MARK.length && !isAll) return false
    this.hasBegun = true
    if (BYTE_ORDER_MARK.every((byte, at) => this.bytes[at] === byte) && this.used >= BYTE_ORDER_MARK.length) this.read = BYTE_ORDER_MARK.length
    return true
  }

  private readOn(): void {
    const { bytes, delimiter, used } = this
    let { at, read, valueStart, valueEnd, high, wasReturn } = this
    while (read < used && !this.found) {
      let byte = bytes[read]!
      if (at === At.Start && byte !== delimiter && byte !== LINE_FEED && byte !== RETURN) {
        wasReturn = false
        valueStart = read
        at = byte === QUOTE ? At.Quoted : At.Plain
        if (at === At.Quoted) valueStart = valueEnd = ++read
      }
      if (at === At.Plain) {
        // Nearly all bytes of nearly all files go by here.
        while (read < used) {
          byte = bytes[read]!
          if (byte === delimiter || byte === LINE_FEED || byte === RETURN) break
          high |= byte
          read++
        }
        if (read === used) break
        valueEnd = read
      } else if (at === At.Quoted) {
        if (read === used) break
        byte = bytes[read++]!
        high |= byte
        if (byte === QUOTE) {
          at = At.Quote
          this.spaces = 0
          wasReturn = false
          continue
        }
        if (byte === RETURN || (byte === LINE_FEED && !wasReturn)) this.line++
        wasReturn = byte === RETURN
        bytes[valueEnd++] = byte
        continue
      } else if (at === At.Quote) {
        if (byte === QUOTE && this.spaces === 0) {
          bytes[valueEnd++] = QUOTE
          at = At.Quoted
          read++
          continue
        }
        if (byte === SPACE) {
          this.spaces++
          read++
          continue
        }
        if (byte !== delimiter && byte !== LINE_FEED && byte !== RETURN) {
          // The mark did not end the value: it, the spaces behind it and what follows belong to it.
          bytes[valueEnd++] = QUOTE
          for (; this.spaces > 0; this.spaces--) bytes[valueEnd++] = SPACE
          at = At.Quoted
          continue
        }
      } else if (wasReturn && byte === LINE_FEED) {
        // The second half of a line's end.
        wasReturn = false
        read++
        continue
      } else {
        valueStart = valueEnd = read
      }
      // A value ends here; with a line's end so does a record.
      const wasQuoted = at === At.Quote
      at = At.Start
      read++
      this.value(valueStart, valueEnd)
      wasReturn = byte === RETURN
      if (byte === delimiter) continue
      this.read = read
      this.line++
      this.record(wasQuoted)
    }
    this.at = at
    this.read = read
    this.valueStart = valueStart
    this.valueEnd = valueEnd
    this.high = high
    this.wasReturn = wasReturn
  }

  private value(start: number, end: number): void {
    if (this.values === this.starts.length) {
      this.starts = doubled(this.starts)
      this.ends = doubled(this.ends)
    }
    this.starts[this.values] = start
    this.ends[this.values++] = end
    const number = this.values - this.complete
    if (end - start > LONGEST_VALUE) this.tooLong(number, false)
    if (number > MOST_VALUES) this.stop('too-many-columns', `The record that begins on line ${this.recordLine} has more than ${MOST_VALUES} values. Choose another delimiter, or split the file.`, this.recordLine, number)
  }

  private record(wasQuoted: boolean): void {
    const number = this.values - this.complete
    const isEmpty = number === 1 && !wasQuoted && this.starts[this.values - 1] === this.ends[this.values - 1]
    const isSkipped = this.skip > 0 && !isEmpty
    if (this.width === 0 && !isEmpty && !isSkipped) this.width = number
    if (this.found) return
    if (isSkipped || (isEmpty && this.width !== 1)) {
      if (isSkipped) this.skip--
      this.values = this.complete
    } else {
      this.toWidth()
      if (this.values - this.complete !== this.width) {
        const what = number < this.width ? `stops after column ${number}` : `goes on past column ${this.width}`
        this.stop('ragged', `Line ${this.recordLine} has ${number} ${number === 1 ? 'value' : 'values'} where ${this.width} were expected, as many as the first line has: it ${what}. Mend that line, or choose another delimiter.`, this.recordLine, Math.min(number, this.width) + 1)
        return
      }
      this.complete = this.values
      this.records++
    }
    this.needed = this.read
    this.recordLine = this.line
  }

  /** Blanks too many go, and blanks too few come where that is wanted. */
  private toWidth(): void {
    const wanted = this.complete + this.width
    while (this.values > wanted && this.starts[this.values - 1] === this.ends[this.values - 1]) this.values--
    if (this.isPadded) while (this.values < wanted) this.value(this.read, this.read)
  }

  /** What has not ended yet may be too long already. */
  private checkLength(): void {
    const number = this.values - this.complete + 1
    const length = this.at === At.Start ? 0 : (this.at === At.Plain ? this.read : this.valueEnd) - this.valueStart
    if (length > LONGEST_VALUE) this.tooLong(number, this.at !== At.Plain)
    else if (this.read - this.needed > LONGEST_RECORD) this.stop('long-value', `The record that begins on line ${this.recordLine} is longer than ${LONGEST_RECORD / 1_000_000} million bytes. The file’s lines may end in a way of their own; save it again as CSV.`, this.recordLine, number)
  }

  private tooLong(column: number, isOpen: boolean): void {
    const where = `The value in column ${column} of the record that begins on line ${this.recordLine} is longer than a million bytes`
    if (isOpen) this.stop('open-quote', `${where}: a quotation mark is probably never closed.`, this.recordLine, column)
    else this.stop('long-value', `${where}. Shorten it, or choose another delimiter.`, this.recordLine, column)
  }

  private stop(...problem: Parameters<typeof fileProblem>): void {
    this.found ??= fileProblem(...problem)
  }

  private taken(): Records {
    return new Records(this.bytes, this.records, this.width, this.starts, this.ends, this.high < 0x80)
  }
}

function doubled(numbers: Uint32Array): Uint32Array<ArrayBuffer> {
  const wider = new Uint32Array(2 * numbers.length)
  wider.set(numbers)
  return wider
}
