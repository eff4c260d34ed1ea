/** Bytes of a file to text, with the place of the first byte that is not text. */
import { FileError, fileError } from './problem'

export const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const
export type Encoding = (typeof ENCODINGS)[number]

/** What the first bytes say: a byte order mark decides, otherwise UTF-8 is meant. */
export function detectEncoding(start: Uint8Array): Encoding {
  if (start[0] === 0xff && start[1] === 0xfe) return 'utf-16le'
  if (start[0] === 0xfe && start[1] === 0xff) return 'utf-16be'
  return 'utf-8'
}

const SIGNATURES: [string, number[]][] = [
  ['a ZIP archive or a spreadsheet workbook', [0x50, 0x4b, 0x03, 0x04]],
  ['an old spreadsheet workbook', [0xd0, 0xcf, 0x11, 0xe0]],
  ['a PDF document', [0x25, 0x50, 0x44, 0x46]],
  ['a compressed file', [0x1f, 0x8b]],
  ['a picture', [0x89, 0x50, 0x4e, 0x47]],
  ['a picture', [0xff, 0xd8, 0xff]],
]

export interface TextDecoding {
  /** @throws FileError `encoding` or `binary`, at the line and character where it shows */
  decode(bytes: Uint8Array): string
  end(): string
}

/** Decodes a file piece by piece. */
export function textDecoding(encoding: Encoding): TextDecoding {
  const decoder = new TextDecoder(encoding, { fatal: true })
  let line = 1
  let character = 1
  let first = true

  const advance = (text: string) => {
    let lineStart = 0
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
      line++
      character = 1
      lineStart = at + 1
    }
    character += text.length - lineStart
  }
  const checked = (text: string) => {
    const nul = text.indexOf('\0')
    if (nul >= 0) {
      advance(text.slice(0, nul))
      throw fileError('binary', `This is not a text file: line ${line} holds a zero byte at character ${character}. Save the table as CSV or TSV and choose that file.`, line, character)
    }
    advance(text)
    return text
  }

  return {
    decode(bytes) {
      if (first && bytes.length > 0) {
        first = false
        const known = SIGNATURES.find(([, signature]) => signature.every((byte, at) => bytes[at] === byte))
        if (known) throw fileError('binary', `This is ${known[0]}, not a text file (line 1, character 1). Save the table as CSV or TSV and choose that file.`, 1, 1)
      }
      let text: string
      try {
        text = decoder.decode(bytes, { stream: true })
      } catch {
        advance(readableStart(bytes, encoding))
        throw fileError('encoding', `Line ${line}, character ${character}, is not ${encoding.toUpperCase()} text. If the file comes from an older program, try another encoding, or save it again as UTF-8.`, line, character)
      }
      return checked(text)
    },
    end() {
      try {
        return checked(decoder.decode())
      } catch (error) {
        if (error instanceof FileError) throw error
        throw fileError('encoding', `The file ends in the middle of a character (line ${line}, character ${character}). It may have been cut short; copy it again.`, line, character)
      }
    },
  }
}

/** Like `textDecoding`, with what was read given in UTF-8, a byte order mark in it or not. */
export function utf8Decoding(encoding: Encoding): { decode(bytes: Uint8Array): Uint8Array; end(): Uint8Array } {
  const decoding = textDecoding(encoding)
  const encoder = new TextEncoder()
  return {
    decode(bytes) {
      const text = decoding.decode(bytes)
      return encoding === 'utf-8' ? bytes : encoder.encode(text)
    },
    end() {
      const text = decoding.end()
      return encoding === 'utf-8' ? new Uint8Array() : encoder.encode(text)
    },
  }
}

/** The longest start of `bytes` that decodes; the piece before it may have left half a character, which costs at most one place. */
function readableStart(bytes: Uint8Array, encoding: Encoding): string {
  let good = 0
  let bad = bytes.length
  while (bad - good > 1) {
    const middle = (good + bad) >>> 1
    try {
      new TextDecoder(encoding, { fatal: true }).decode(bytes.subarray(0, middle), { stream: true })
      good = middle
    } catch {
      bad = middle
    }
  }
  return new TextDecoder(encoding).decode(bytes.subarray(0, good), { stream: true })
}
