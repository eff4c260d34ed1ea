/** Rows of any file as plain delimited text (RFC 4180, commas, UTF-8), piece by piece. */

export interface PlainRows {
  text(value: string): void
  /** A value that lies in bytes of UTF-8. */
  bytes(bytes: Uint8Array, start: number, end: number): void
  /**
   * Many values at once.
   * @param isQuoted by value, 1 for one that needs marks of quotation, and holds none itself
   */
  values(bytes: Uint8Array, starts: Int32Array, ends: Int32Array, isQuoted: Uint8Array, count: number): void
  endRow(): void
  /** Bytes written since the last `take`. */
  readonly size: number
  /** What was written since then. The next piece begins anew, so this one has to be used before more is written. */
  take(): Uint8Array
}

const [COMMA, QUOTE, LINE_FEED, RETURN, SPACE] = [0x2c, 0x22, 0x0a, 0x0d, 0x20]
/** Bytes that a UTF-16 unit takes at most in UTF-8. */
const WIDEST = 3
const encoder = new TextEncoder()

export function plainRows(): PlainRows {
  let out = new Uint8Array(1 << 16)
  let used = 0
  let values = 0

  const room = (bytes: number): void => {
    if (used + bytes <= out.length) return
    const wider = new Uint8Array(Math.max(2 * out.length, used + bytes))
    wider.set(out.subarray(0, used))
    out = wider
  }
  const comma = (): void => {
    if (values++ > 0) out[used++] = COMMA
  }
  /** Puts a value that was just written from `start` on into marks of quotation, where it needs them. */
  const quoted = (start: number): void => {
    let marks = 0
    let needs = used > start && (out[start] === SPACE || out[used - 1] === SPACE)
    for (let at = start; at < used; at++) {
      const byte = out[at]!
      if (byte === QUOTE) marks++
      else if (byte === COMMA || byte === LINE_FEED || byte === RETURN) needs = true
    }
    if (marks === 0 && !needs) return
    room(marks + 2)
    let from = used - 1
    used += marks + 2
    let to = used - 1
    out[to--] = QUOTE
    for (; from >= start; from--) {
      out[to--] = out[from]!
      if (out[from] === QUOTE) out[to--] = QUOTE
    }
    out[to] = QUOTE
  }

  return {
    text(value) {
      room(value.length * WIDEST + 3)
      comma()
      const start = used
      if (value.length < 32) {
        for (let at = 0; at < value.length; at++) {
          const unit = value.charCodeAt(at)
          if (unit >= 0x80) {
            used = start + encoder.encodeInto(value, out.subarray(start)).written
            break
          }
          out[used++] = unit
        }
      } else used += encoder.encodeInto(value, out.subarray(used)).written
      quoted(start)
    },
    bytes(bytes, start, end) {
      room(end - start + 3)
      comma()
      const from = used
      for (let at = start; at < end; at++) out[used++] = bytes[at]!
      quoted(from)
    },
    values(bytes, starts, ends, isQuoted, count) {
      let most = 3 * count
      for (let value = 0; value < count; value++) most += ends[value]! - starts[value]!
      room(most)
      const to = out
      let next = used
      for (let value = 0; value < count; value++) {
        if (values++ > 0) to[next++] = COMMA
        const isMarked = isQuoted[value] === 1
        if (isMarked) to[next++] = QUOTE
        const end = ends[value]!
        for (let at = starts[value]!; at < end; at++) to[next++] = bytes[at]!
        if (isMarked) to[next++] = QUOTE
      }
      used = next
    },
    endRow() {
      room(4)
      // A row of one blank would be an empty line, which is none.
      if (values === 1 && (used === 0 || out[used - 1] === LINE_FEED)) {
        out[used++] = QUOTE
        out[used++] = QUOTE
      }
      out[used++] = LINE_FEED
      values = 0
    },
    get size() {
      return used
    },
    take() {
      const piece = out.subarray(0, used)
      used = 0
      return piece
    },
  }
}
