/** Parts of a column, one behind the other. */
import { emptyBitmap, hasBit, setBit } from './bitmap'
import { BLANK_CODE, type DictionaryColumn, dictionaryFrom } from './dictionary-column'
import type { NumberColumn } from './number-column'
import type { Column } from './table'

/** @param parts at least one, all of one kind */
export function joinColumns(parts: readonly Column[]): Column {
  const [first] = parts
  if (parts.length === 1) return first!
  return first!.kind === 'number' ? joinNumbers(parts as readonly NumberColumn[]) : joinDictionaries(parts as readonly DictionaryColumn[])
}

function joinNumbers(parts: readonly NumberColumn[]): NumberColumn {
  const length = parts.reduce((sum, part) => sum + part.length, 0)
  const [doubles, valid] = [new Float64Array(length), emptyBitmap(length)]
  let start = 0
  for (const part of parts) {
    doubles.set(part.doubles, start)
    if (start % 32 === 0) valid.words.set(part.valid.words, start / 32)
    else for (let at = 0; at < part.length; at++) if (hasBit(part.valid, at)) setBit(valid, start + at)
    start += part.length
  }
  return { kind: 'number', length, doubles, valid, exact: joinTexts(parts, 'exact'), unreadable: joinTexts(parts, 'unreadable') }
}

function joinDictionaries(parts: readonly DictionaryColumn[]): DictionaryColumn {
  const codes = new Int32Array(parts.reduce((sum, part) => sum + part.length, 0))
  const known = new Map<string, number>()
  let start = 0
  for (const part of parts) {
    const own = part.texts.map((text) => {
      const code = known.get(text) ?? known.size
      known.set(text, code)
      return code
    })
    for (let at = 0; at < part.length; at++) codes[start + at] = part.codes[at] === BLANK_CODE ? BLANK_CODE : own[part.codes[at]!]!
    start += part.length
  }
  return dictionaryFrom(parts[0]!.type, codes, [...known.keys()], joinTexts(parts, 'unreadable'))
}

function joinTexts<Part extends Column, Key extends keyof Part>(parts: readonly Part[], key: Key): Map<number, string> {
  const joined = new Map<number, string>()
  let start = 0
  for (const part of parts) {
    for (const [at, text] of part[key] as ReadonlyMap<number, string>) joined.set(start + at, text)
    start += part.length
  }
  return joined
}
