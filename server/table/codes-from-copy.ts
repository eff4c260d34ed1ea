/** Values that repeat as the database writes them, read without a text for each record: a text is made for each different one. */
import { BLANK_CODE, type DictionaryColumn, dictionaryFrom } from '@dime-gate/core/table/dictionary-column'
import type { ValueKind } from '@dime-gate/core/value/value'
import type { CopiedRows } from '../database/copy-rows'

/** @param unreadable the field with the texts that could not be read; null where there are none */
export function codesFromCopy(kind: ValueKind, rows: CopiedRows, field: number, unreadable: number | null): DictionaryColumn {
  const { length, bytes } = rows
  const codes = new Int32Array(length).fill(BLANK_CODE)
  const written = new Map<number, string>()
  const texts: string[] = []
  const seen = new SeenFields(bytes)
  for (let row = 0; row < length; row++) {
    if (rows.isNull(row, field)) {
      const text = unreadable === null ? null : rows.text(row, unreadable)
      if (text !== null) written.set(row, text)
      continue
    }
    const code = seen.codeOf(rows.start(row, field), rows.end(row, field))
    if (code === texts.length) {
      const text = rows.text(row, field)!
      texts.push(kind === 'boolean' ? truth(text) : text)
    }
    codes[row] = code
  }
  return dictionaryFrom(kind, codes, texts, written)
}

/** PostgreSQL writes truth in one letter. */
function truth(text: string): string {
  return text === 't' ? 'true' : 'false'
}

/** Different stretches of some bytes, numbered as they are met. */
class SeenFields {
  /** By slot the number of the stretch, from 1; 0 where the slot is free. */
  private slots = new Int32Array(1 << 10)
  private starts: number[] = []
  private ends: number[] = []
  private hashes: number[] = []

  constructor(private readonly bytes: Uint8Array) {}

  codeOf(start: number, end: number): number {
    const { bytes } = this
    // FNV-1a, 32 bits.
    let hash = 0x811c9dc5
    for (let at = start; at < end; at++) hash = Math.imul(hash ^ bytes[at]!, 0x01000193)
    const mask = this.slots.length - 1
    let slot = (hash ^ (hash >>> 15)) & mask
    for (let known = this.slots[slot]!; known !== 0; known = this.slots[slot]!) {
      if (this.hashes[known - 1] === hash && this.isSame(known - 1, start, end)) return known - 1
      slot = (slot + 1) & mask
    }
    const code = this.starts.length
    this.starts.push(start)
    this.ends.push(end)
    this.hashes.push(hash)
    this.slots[slot] = code + 1
    if (2 * this.starts.length > this.slots.length) this.widen()
    return code
  }

  private isSame(known: number, start: number, end: number): boolean {
    const from = this.starts[known]!
    if (this.ends[known]! - from !== end - start) return false
    for (let at = 0; at < end - start; at++) if (this.bytes[from + at] !== this.bytes[start + at]) return false
    return true
  }

  private widen(): void {
    this.slots = new Int32Array(2 * this.slots.length)
    const mask = this.slots.length - 1
    this.hashes.forEach((hash, code) => {
      let slot = (hash ^ (hash >>> 15)) & mask
      while (this.slots[slot] !== 0) slot = (slot + 1) & mask
      this.slots[slot] = code + 1
    })
  }
}
