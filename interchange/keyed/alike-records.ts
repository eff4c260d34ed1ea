/**
 * JSON records like those before them, which nearly all are: plain values under names that came in this order. They are read in one
 * go, which takes less than half as long; whatever is otherwise in the least is left to whoever reads records of any kind.
 */
import { isDateLike, type KeyedRows } from './keyed-rows'

/** A name that a record has, as it stands in the file, without its marks, and the place of its column. */
export interface NamedPlace {
  name: Uint8Array
  place: number
}

const [TAB, LINE_FEED, RETURN, SPACE, QUOTE, COMMA, MINUS, POINT, ZERO, NINE, COLON] = [0x09, 0x0a, 0x0d, 0x20, 0x22, 0x2c, 0x2d, 0x2e, 0x30, 0x39, 0x3a]
const [BACKSLASH, CLOSE_OBJECT, HIGH, SMALL_F, SMALL_N, SMALL_T] = [0x5c, 0x7d, 0x80, 0x66, 0x6e, 0x74]
const [NULL, TRUE, FALSE] = ['null', 'true', 'false'].map((word) => new TextEncoder().encode(word)) as [Uint8Array, Uint8Array, Uint8Array]
/** By byte, 1 for a letter of a text that is nothing but that. */
const IS_PLAIN = Uint8Array.from({ length: 256 }, (_, byte) => Number(byte >= SPACE && byte < HIGH && byte !== QUOTE && byte !== BACKSLASH && byte !== COMMA))
const utf8 = new TextDecoder('utf-8', { fatal: true })
/** Digits of a number; one that is longer is looked at with more care. */
const LONGEST_NUMBER = 300

export class AlikeRecords {
  /** In the order in which they come, `"Ward":`, and their places. */
  private readonly names: Uint8Array[] = []
  private readonly places: number[] = []
  /** By place where its value lies, and whether it has to be put between marks; whether it is known to hold texts, numbers, truths. */
  private starts = new Int32Array(0)
  private ends = new Int32Array(0)
  private isQuoted = new Uint8Array(0)
  private readonly known = { text: new Set<number>(), number: new Set<number>(), truth: new Set<number>() }
  private hasText = new Uint8Array(0)

  /** Ends of lines within the record that was read last. */
  lines = 0

  constructor(private readonly rows: KeyedRows) {}

  /** Names of a record in their order: new ones are expected where it has them. */
  learn(record: readonly NamedPlace[]): void {
    let behind = 0
    for (const { name, place } of record) {
      const at = this.places.indexOf(place)
      if (at >= 0) {
        behind = at + 1
        continue
      }
      this.names.splice(behind, 0, Uint8Array.of(QUOTE, ...name, QUOTE, COLON))
      this.places.splice(behind++, 0, place)
    }
    const width = Math.max(-1, ...this.places) + 1
    if (width <= this.starts.length) return
    ;[this.starts, this.ends] = [new Int32Array(width), new Int32Array(width)]
    this.isQuoted = new Uint8Array(width)
    this.hasText = Uint8Array.from({ length: width }, (_, place) => Number(this.known.text.has(place)))
  }

  /**
   * @param from where its bracket opens
   * @param used bytes that are there
   * @returns the place behind it; -1 where it is not alike, or does not end in these bytes: nothing is written then
   */
  read(bytes: Uint8Array, from: number, used: number): number {
    const { names, places, starts, ends, isQuoted } = this
    let [at, order, last, lines] = [from + 1, 0, -1, 0]
    ends.fill(0)
    starts.fill(0)
    isQuoted.fill(0)
    for (;;) {
      for (let byte = bytes[at]!; at < used && (byte === SPACE || byte === LINE_FEED || byte === RETURN || byte === TAB); byte = bytes[++at]!) if (byte === LINE_FEED) lines++
      // A name that is not there has no value.
      while (order < names.length && !isAt(bytes, at, names[order]!)) order++
      if (order === names.length) return -1
      at += names[order]!.length
      const place = places[order++]!
      while (bytes[at] === SPACE) at++
      let byte = bytes[at]!
      if (byte === QUOTE) {
        const start = ++at
        let [high, needsMarks] = [0, 0]
        for (; ; at++) {
          while (IS_PLAIN[bytes[at]!] === 1) at++
          byte = bytes[at]!
          if (byte === COMMA) needsMarks = 1
          else if (byte >= HIGH) high = byte
          else break
        }
        if (byte !== QUOTE || at >= used || (high > 0 && !isUtf8(bytes, start, at))) return -1
        starts[place] = start
        ends[place] = at
        if (bytes[start] === SPACE || bytes[at - 1] === SPACE) needsMarks = 1
        isQuoted[place] = needsMarks
        if (this.hasText[place] === 0 && !isDateLike(bytes, start, at)) this.say(place, 'text')
        at++
        if (place > last) last = place
      } else if (byte === SMALL_N) {
        if (!isAt(bytes, at, NULL)) return -1
        at += NULL.length
      } else {
        const start = at
        const word = byte === SMALL_T ? TRUE : byte === SMALL_F ? FALSE : null
        at = word === null ? pastNumber(bytes, at) : isAt(bytes, at, word) ? at + word.length : -1
        // Behind the bytes that are there lies what was there before, which says nothing of this record.
        if (at < 0 || at >= used) return -1
        const kind = word === null ? 'number' : 'truth'
        if (!this.known[kind].has(place)) this.say(place, kind)
        starts[place] = start
        ends[place] = at
        if (place > last) last = place
      }
      for (byte = bytes[at]!; at < used && (byte === SPACE || byte === LINE_FEED || byte === RETURN || byte === TAB); byte = bytes[++at]!) if (byte === LINE_FEED) lines++
      if (at >= used) return -1
      at++
      if (byte === CLOSE_OBJECT) break
      if (byte !== COMMA) return -1
    }
    this.lines = lines
    this.rows.record(bytes, starts, ends, isQuoted, last + 1)
    return at
  }

  /** That a column holds such values is said once; that a record goes on otherwise later does not make it less true. */
  private say(place: number, kind: 'text' | 'number' | 'truth'): void {
    this.known[kind].add(place)
    if (kind === 'text') this.hasText[place] = 1
    this.rows.holds(place, kind)
  }
}

function isAt(bytes: Uint8Array, at: number, wanted: Uint8Array): boolean {
  for (let offset = 0; offset < wanted.length; offset++) if (bytes[at + offset] !== wanted[offset]) return false
  return true
}

/** Past a number without an exponent (RFC 8259, clause 6); -1 where there is none. */
function pastNumber(bytes: Uint8Array, start: number): number {
  let at = bytes[start] === MINUS ? start + 1 : start
  const whole = at
  while (bytes[at]! >= ZERO && bytes[at]! <= NINE) at++
  if (at === whole || (bytes[whole] === ZERO && at > whole + 1)) return -1
  if (bytes[at] === POINT) {
    const part = ++at
    while (bytes[at]! >= ZERO && bytes[at]! <= NINE) at++
    if (at === part) return -1
  }
  return at - start > LONGEST_NUMBER ? -1 : at
}

function isUtf8(bytes: Uint8Array, start: number, end: number): boolean {
  try {
    utf8.decode(bytes.subarray(start, end))
    return true
  } catch {
    return false
  }
}
