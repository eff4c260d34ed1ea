/** A long answer by COPY, which streams: neither side ever holds more than some of its rows. */
import { to as copyTo } from 'pg-copy-streams'
import { fromCopyText } from './copy-text'
import type { Connection } from './database'

const [TAB, LINE_END, BACKSLASH, CAPITAL_N, ZERO, MINUS] = [0x09, 0x0a, 0x5c, 0x4e, 0x30, 0x2d]

/** Rows as the database wrote them: where each field stands, and texts only for those that are asked for. */
export class CopiedRows {
  /** @param ends by row and field, the place behind its last byte; a field begins one byte behind the end of the one before */
  constructor(readonly bytes: Buffer, readonly length: number, private readonly fields: number, private readonly ends: Uint32Array) {}

  start(row: number, field: number): number {
    const at = row * this.fields + field
    return at === 0 ? 0 : this.ends[at - 1]! + 1
  }

  end(row: number, field: number): number {
    return this.ends[row * this.fields + field]!
  }

  isNull(row: number, field: number): boolean {
    const start = this.start(row, field)
    return this.end(row, field) - start === 2 && this.bytes[start] === BACKSLASH && this.bytes[start + 1] === CAPITAL_N
  }

  text(row: number, field: number): string | null {
    return fromCopyText(this.bytes.toString('utf8', this.start(row, field), this.end(row, field)))
  }

  /** A whole number that fits into 32 bits; of one that is not there nothing is said. */
  whole(row: number, field: number): number {
    const [start, end] = [this.start(row, field), this.end(row, field)]
    const isNegative = this.bytes[start] === MINUS
    let number = 0
    for (let at = isNegative ? start + 1 : start; at < end; at++) number = number * 10 + this.bytes[at]! - ZERO
    return isNegative ? -number : number
  }
}

/**
 * @param sql without parameters: COPY takes none
 * @param fields how many the rows have
 * @param size rows in a batch; an answer without rows gives one empty batch
 */
export async function* copyRows(connection: Connection, sql: string, fields: number, size: number): AsyncGenerator<CopiedRows> {
  const stream = connection.query(copyTo(`copy (${sql}) to stdout`))
  const most = size * fields
  let held: Buffer = Buffer.allocUnsafe(1 << 16)
  let [used, seen] = [0, 0]
  let [ends, found, isFirst] = [new Uint32Array(most), 0, true]
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    held = withRoom(held, used, chunk.length)
    chunk.copy(held, used)
    used += chunk.length
    for (;;) {
      found = findEnds(held, seen, used, ends, found)
      if (found < most) break
      yield new CopiedRows(held, size, fields, ends)
      isFirst = false
      const rest = held.subarray(ends[most - 1]! + 1, used)
      held = withRoom(Buffer.from(rest), rest.length, held.length - rest.length)
      ;[used, seen, ends, found] = [rest.length, 0, new Uint32Array(most), 0]
    }
    seen = used
  }
  if (found > 0 || isFirst) yield new CopiedRows(held, found / fields, fields, ends)
}

/**
 * The ends of fields among some bytes, each behind those of `ends` that were found before, as far as there is room for them.
 * A function of its own: what a generator keeps from one batch to the next is slow to get at, and this looks at every byte.
 * @returns how many there are now
 */
function findEnds(bytes: Uint8Array, from: number, to: number, ends: Uint32Array, found: number): number {
  for (let at = from; at < to; at++) {
    const byte = bytes[at]!
    if (byte !== TAB && byte !== LINE_END) continue
    ends[found++] = at
    if (found === ends.length) break
  }
  return found
}

/** A buffer that holds the same and has room for more. */
function withRoom(held: Buffer, used: number, more: number): Buffer {
  if (used + more <= held.length) return held
  const wider = Buffer.allocUnsafe(Math.max(used + more, 2 * held.length))
  held.copy(wider, 0, 0, used)
  return wider
}
