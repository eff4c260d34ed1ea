/**
 * JSON (RFC 8259): an array of objects, or an object in which one is; and JSON Lines, an object a line. Numbers are taken as
 * they are written, not as doubles. Read from bytes, one record at a time, however the file is cut into pieces.
 */
import { fileError } from '../table/problem'
import { AlikeRecords, type NamedPlace } from './alike-records'
import type { KeyedRows } from './keyed-rows'

/** Bytes of one record. */
const LONGEST_RECORD = 16_000_000
const DEEPEST = 100
/** Bytes behind those that are there: whoever reads on a little reads nothing that counts, but never past the end, which is slow. */
const AHEAD = 64

const [TAB, LINE_FEED, RETURN, SPACE, QUOTE, COMMA, COLON, BACKSLASH] = [0x09, 0x0a, 0x0d, 0x20, 0x22, 0x2c, 0x3a, 0x5c]
const [OPEN_ARRAY, CLOSE_ARRAY, OPEN_OBJECT, CLOSE_OBJECT] = [0x5b, 0x5d, 0x7b, 0x7d]
const utf8 = new TextDecoder('utf-8', { fatal: true })

/** How records stand in the file: in an array, in an array that an object holds, or one after the other. */
export type JsonLayout = 'array' | 'inside' | 'lines'

/** @param start the first bytes of a file that begins as JSON does. @returns null where they are no beginning of JSON */
export function jsonLayout(start: Uint8Array): JsonLayout | null {
  const [first, behind] = [firstSign(start, 0), endOfObject(start)]
  if (start[first] === OPEN_ARRAY) return 'array'
  if (start[first] !== OPEN_OBJECT) return null
  return behind !== null && start[firstSign(start, behind)] === OPEN_OBJECT ? 'lines' : 'inside'
}

function firstSign(bytes: Uint8Array, from: number): number {
  let at = from
  while (at < bytes.length && (isSpace(bytes[at]!) || isMark(bytes[at]!))) at++
  return at
}

/** Behind the object that the bytes begin with; null where it does not end in them. */
function endOfObject(bytes: Uint8Array): number | null {
  let [depth, inText] = [0, false]
  for (let at = firstSign(bytes, 0); at < bytes.length; at++) {
    const byte = bytes[at]!
    if (inText) {
      if (byte === BACKSLASH) at++
      else if (byte === QUOTE) inText = false
    } else if (byte === QUOTE) inText = true
    else if (byte === OPEN_OBJECT || byte === OPEN_ARRAY) depth++
    else if ((byte === CLOSE_OBJECT || byte === CLOSE_ARRAY) && --depth === 0) return at + 1
  }
  return null
}

function isSpace(byte: number): boolean {
  return byte === SPACE || byte === TAB || byte === LINE_FEED || byte === RETURN
}

/** Of a byte order mark. */
function isMark(byte: number): boolean {
  return byte === 0xef || byte === 0xbb || byte === 0xbf
}

/** @param source bytes in UTF-8. @throws FileError `not-records` where it is no JSON, or none that is a table */
export async function readJson(source: AsyncIterable<Uint8Array>, layout: JsonLayout, rows: KeyedRows): Promise<void> {
  const found = new Finder(rows, layout)
  for await (const piece of source) found.push(piece)
  found.end()
}

/** Finds where records begin and end; what is in them is looked at once they are there in whole. */
class Finder {
  private bytes = new Uint8Array()
  private used = 0
  private at = 0
  private line = 1
  /** Where the record that is being found begins; -1 between records. */
  private start = -1
  private startLine = 1
  private depth = 0
  private inText = false
  private isEscaped = false
  private hasRecord = false
  /** Whether records may come here, have yet to come, or are behind. */
  private state: 'before' | 'among' | 'behind'
  private readonly parser: RecordParser
  private readonly alike: AlikeRecords

  constructor(
    rows: KeyedRows,
    private readonly layout: JsonLayout,
  ) {
    this.state = layout === 'lines' ? 'among' : 'before'
    this.parser = new RecordParser(rows)
    this.alike = new AlikeRecords(rows)
  }

  push(piece: Uint8Array): void {
    this.keepFrom(this.start < 0 ? this.at : this.start)
    if (this.used + piece.length + AHEAD > this.bytes.length) {
      const wider = new Uint8Array(Math.max(this.used + piece.length + AHEAD, 2 * this.bytes.length))
      wider.set(this.bytes.subarray(0, this.used))
      this.bytes = wider
    }
    this.bytes.set(piece, this.used)
    this.used += piece.length
    this.scan()
    if (this.start >= 0 && this.used - this.start > LONGEST_RECORD)
      throw fileError(
        'long-value',
        `The record that begins on line ${this.startLine} is longer than ${LONGEST_RECORD / 1_000_000} million bytes. The file may lack its end.`,
        this.startLine,
      )
  }

  end(): void {
    const isInside = this.start >= 0 || (this.state === 'among' && this.layout !== 'lines')
    if (isInside)
      throw fileError(
        'not-records',
        `The file ends in the middle of ${this.start >= 0 ? `the record that begins on line ${this.startLine}` : 'its array'}. It may have been cut short; save or copy it again.`,
        this.line,
      )
    if (!this.hasRecord)
      throw fileError('empty', 'The file holds no record. A table is an array of objects, [{"Name": "…"}, …], or an object a line.', 1)
  }

  private keepFrom(from: number): void {
    this.bytes.copyWithin(0, from, this.used)
    this.used -= from
    this.at -= from
    if (this.start >= 0) this.start -= from
  }

  private scan(): void {
    const { bytes, used } = this
    let { at, inText, depth } = this
    for (; at < used; at++) {
      const byte = bytes[at]!
      if (this.start < 0) {
        const behind = byte === OPEN_OBJECT && this.state === 'among' ? this.alike.read(bytes, at, used) : -1
        if (behind > 0) {
          this.line += this.alike.lines
          this.hasRecord = true
          at = behind - 1
          continue
        }
        this.at = at
        this.inText = inText
        this.between(byte)
        ;({ depth, inText } = this)
        continue
      }
      if (inText) {
        if (this.isEscaped) this.isEscaped = false
        else {
          // Nearly all bytes of a file are those of names and texts.
          while (at < used && bytes[at] !== QUOTE && bytes[at] !== BACKSLASH) at++
          if (at === used) break
          if (bytes[at] === BACKSLASH) this.isEscaped = true
          else inText = false
        }
        continue
      }
      if (byte === QUOTE) inText = true
      else if (byte === LINE_FEED) this.line++
      else if (byte === OPEN_OBJECT || byte === OPEN_ARRAY) depth++
      else if ((byte === CLOSE_OBJECT || byte === CLOSE_ARRAY) && --depth === 0) {
        this.alike.learn(this.parser.read(bytes, this.start, at + 1, this.startLine))
        this.hasRecord = true
        this.start = -1
        this.inText = false
      }
    }
    this.at = at
    this.inText = inText
    this.depth = depth
  }

  /** A byte that is in no record. */
  private between(byte: number): void {
    if (byte === LINE_FEED) this.line++
    if (this.state !== 'among' && this.layout === 'inside') return this.beside(byte)
    if (isSpace(byte) || byte === COMMA || isMark(byte)) return
    if (byte === OPEN_OBJECT && this.state === 'among') {
      this.start = this.at
      this.startLine = this.line
      this.depth = 1
    } else if (byte === OPEN_ARRAY && this.state === 'before') this.state = 'among'
    else if (byte === CLOSE_ARRAY && this.state === 'among' && this.layout !== 'lines') this.state = 'behind'
    else
      throw fileError(
        'not-records',
        `Line ${this.line} has “${String.fromCharCode(byte)}” where ${this.state === 'behind' ? 'the file should end' : 'a record was expected'}. A table is an array of objects, [{"Name": "…"}, …], or an object a line.`,
        this.line,
      )
  }

  /** Whatever else the object holds that the records are in. The first array is theirs. */
  private beside(byte: number): void {
    if (this.inText) {
      if (this.isEscaped) this.isEscaped = false
      else if (byte === BACKSLASH) this.isEscaped = true
      else if (byte === QUOTE) this.inText = false
    } else if (byte === QUOTE) this.inText = true
    else if (byte === OPEN_ARRAY && this.state === 'before') this.state = 'among'
  }
}


/** Reads one record after the other. */
class RecordParser {
  private bytes = new Uint8Array()
  private at = 0
  private end = 0
  private line = 0
  private order = 0
  /** Columns that the last record had, in its order: the next one most likely has the same. */
  private readonly expected: NamedPlace[] = []
  /** Of the text that was read last: where it lies between its marks, whether nothing in it stands for something else, and whether it is of ASCII alone. */
  private start = 0
  private behind = 0
  private isPlain = true
  private isAscii = true

  constructor(private readonly rows: KeyedRows) {}

  /** @param line the one that the record begins on. @returns its names that have values of no more names, in their order */
  read(bytes: Uint8Array, start: number, end: number, line: number): NamedPlace[] {
    this.bytes = bytes as Uint8Array<ArrayBuffer>
    this.at = start
    this.end = end
    this.line = line
    this.order = 0
    this.object('', 0)
    this.rows.endRecord()
    return this.expected.slice(0, this.order)
  }

  private object(prefix: string, depth: number): void {
    if (depth > DEEPEST) this.wrong(`is nested more than ${DEEPEST} deep`)
    this.at++
    if (this.next() === CLOSE_OBJECT) return void this.at++
    for (;;) {
      if (this.next() !== QUOTE) this.wrong('has a value without a name')
      this.string()
      const { start, behind, isPlain } = this
      if (this.next() !== COLON) this.wrong('has a name without a value')
      this.at++
      this.member(prefix, start, behind, isPlain, depth)
      const byte = this.next()
      this.at++
      if (byte === CLOSE_OBJECT) return
      if (byte !== COMMA) this.wrong('lacks a comma between two values')
    }
  }

  private member(prefix: string, from: number, to: number, isPlain: boolean, depth: number): void {
    const byte = this.next()
    if (byte === OPEN_OBJECT) return this.object(`${prefix}${this.decoded(from, to, isPlain)}.`, depth + 1)
    const place = this.placeOf(prefix, from, to, isPlain)
    if (byte === QUOTE) {
      this.string()
      if (this.isPlain && this.isAscii) this.rows.span(place, this.bytes, this.start, this.behind, 'text')
      else this.rows.text(place, this.decoded(this.start, this.behind, this.isPlain), 'text')
      return
    }
    if (byte === OPEN_ARRAY) {
      const start = this.at
      this.skipArray()
      // A list stays as it is written.
      this.rows.text(place, utf8.decode(this.bytes.subarray(start, this.at)), 'text')
      return
    }
    const start = this.at
    while (this.at < this.end && !isEnd(this.bytes[this.at]!)) this.at++
    if (this.isAt(NULL, start, this.at)) return
    if (this.isAt(TRUE, start, this.at) || this.isAt(FALSE, start, this.at)) return this.rows.span(place, this.bytes, start, this.at, 'truth')
    if (!isNumber(this.bytes, start, this.at))
      this.wrong(`has “${new TextDecoder().decode(this.bytes.subarray(start, Math.min(this.at, start + 20)))}”, which is no value of JSON`)
    this.rows.span(place, this.bytes, start, this.at, 'number')
  }

  private placeOf(prefix: string, from: number, to: number, isPlain: boolean): number {
    if (prefix !== '') return this.rows.place(prefix + this.decoded(from, to, isPlain))
    const order = this.order++
    const guess = this.expected[order]
    if (guess && this.isAt(guess.name, from, to)) return guess.place
    const place = this.rows.place(this.decoded(from, to, isPlain))
    this.expected[order] = { name: this.bytes.slice(from, to), place }
    return place
  }

  private isAt(name: Uint8Array, from: number, to: number): boolean {
    if (to - from !== name.length) return false
    for (let at = 0; at < name.length; at++) if (this.bytes[from + at] !== name[at]) return false
    return true
  }

  private string(): void {
    const { bytes, end } = this
    let at = this.at + 1
    let [isPlain, high] = [true, 0]
    this.start = at
    for (let byte = bytes[at]!; at < end && byte !== QUOTE; byte = bytes[at]!) {
      high |= byte
      if (byte === BACKSLASH) {
        isPlain = false
        at++
      }
      at++
    }
    this.behind = at
    this.at = at + 1
    this.isPlain = isPlain
    this.isAscii = high < 0x80
  }

  private decoded(start: number, end: number, isPlain: boolean): string {
    try {
      const text = utf8.decode(this.bytes.subarray(start, end))
      return isPlain ? text : (JSON.parse(`"${text}"`) as string)
    } catch {
      return this.wrong('has a text that is neither UTF-8 nor JSON')
    }
  }

  private skipArray(): void {
    let depth = 0
    do {
      const byte = this.bytes[this.at]!
      if (byte === QUOTE) this.string()
      else {
        if (byte === OPEN_ARRAY || byte === OPEN_OBJECT) depth++
        if (byte === CLOSE_ARRAY || byte === CLOSE_OBJECT) depth--
        this.at++
      }
    } while (depth > 0 && this.at < this.end)
  }

  /** The next byte that is no white space. */
  private next(): number {
    for (; this.at < this.end; this.at++) {
      const byte = this.bytes[this.at]!
      if (byte !== SPACE && byte !== LINE_FEED && byte !== RETURN && byte !== TAB) return byte
    }
    return 0
  }

  private wrong(what: string): never {
    throw fileError(
      'not-records',
      `The record that begins on line ${this.line} ${what}. It is no JSON; mend it, or save the file again.`,
      this.line,
    )
  }
}

const [NULL, TRUE, FALSE] = ['null', 'true', 'false'].map((word) => new TextEncoder().encode(word)) as [Uint8Array, Uint8Array, Uint8Array]

/** Of a value without marks. */
function isEnd(byte: number): boolean {
  return byte === COMMA || byte === CLOSE_OBJECT || byte === CLOSE_ARRAY || isSpace(byte)
}

/** As RFC 8259, clause 6, has it. */
function isNumber(bytes: Uint8Array, start: number, end: number): boolean {
  if (end === start || end - start > 400) return false
  let text = ''
  for (let at = start; at < end; at++) text += String.fromCharCode(bytes[at]!)
  return /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?$/.test(text)
}
