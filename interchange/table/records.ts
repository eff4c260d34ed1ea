/** Records of a delimited file as they lie in its bytes: where each value begins and ends, and texts for whoever asks. */
const HIGH = 0x80
const utf8 = new TextDecoder('utf-8', { ignoreBOM: true })
const ascii = new TextDecoder('latin1')

/** Holds until its reader is given more. */
export class Records {
  /**
   * @param bytes in UTF-8
   * @param length how many records there are
   * @param width values in each
   * @param starts by record and value, the place of the first byte
   * @param ends by record and value, the place behind the last byte
   */
  constructor(
    readonly bytes: Uint8Array, readonly length: number, readonly width: number,
    readonly starts: Uint32Array, readonly ends: Uint32Array, private readonly isAscii: boolean,
  ) {}

  text(record: number, value: number): string {
    const at = record * this.width + value
    return textOf(this.bytes, this.starts[at]!, this.ends[at]!)
  }

  texts(): string[][] {
    const cells = this.length * this.width
    if (cells === 0) return Array.from({ length: this.length }, () => [])
    // Taken apart from one text, which is far quicker than many small ones.
    const base = this.starts[0]!
    const whole = this.isAscii ? ascii.decode(this.bytes.subarray(base, this.ends[cells - 1]!)) : null
    return Array.from({ length: this.length }, (_, record) => Array.from({ length: this.width }, (_, value) => {
      const at = record * this.width + value
      return whole === null ? textOf(this.bytes, this.starts[at]!, this.ends[at]!) : whole.slice(this.starts[at]! - base, this.ends[at]! - base)
    }))
  }
}

function textOf(bytes: Uint8Array, start: number, end: number): string {
  if (end - start > 24) return utf8.decode(bytes.subarray(start, end))
  let text = ''
  for (let at = start; at < end; at++) {
    const byte = bytes[at]!
    if (byte >= HIGH) return utf8.decode(bytes.subarray(start, end))
    text += String.fromCharCode(byte)
  }
  return text
}
