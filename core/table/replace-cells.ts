/** A column in which a few cells have become others; what is read of it meanwhile stays as it was. */
import { isExactAsDouble } from '../value/number'
import { type Bitmap, setBit } from './bitmap'
import type { Cell } from './cells'
import { BLANK_CODE, type DictionaryColumn, dictionaryFrom } from './dictionary-column'
import type { NumberColumn } from './number-column'
import type { Column } from './table'

/**
 * @param places of the cells, in any order
 * @param cells as many
 * @returns what the column would be if it were made of all its cells anew
 */
export function replaceCells(column: Column, places: ArrayLike<number>, cells: readonly Cell[]): Column {
  const unreadable = new Map(column.unreadable)
  cells.forEach((cell, at) => {
    if (cell !== null && typeof cell !== 'string') unreadable.set(places[at]!, cell.unreadable)
    else unreadable.delete(places[at]!)
  })
  const texts = cells.map((cell) => (typeof cell === 'string' ? cell : null))
  return column.kind === 'number' ? numbers(column, places, texts, unreadable) : codes(column, places, texts, unreadable)
}

function numbers(column: NumberColumn, places: ArrayLike<number>, texts: readonly (string | null)[], unreadable: ReadonlyMap<number, string>): NumberColumn {
  const doubles = column.doubles.slice()
  const valid: Bitmap = { ...column.valid, words: column.valid.words.slice() }
  const exact = new Map(column.exact)
  texts.forEach((text, at) => {
    const place = places[at]!
    exact.delete(place)
    doubles[place] = text === null ? 0 : Number(text)
    if (text === null) valid.words[place >>> 5]! &= ~(1 << (place & 31))
    else setBit(valid, place)
    if (text !== null && !isExactAsDouble(text)) exact.set(place, text)
  })
  return { ...column, doubles, valid, exact, unreadable }
}

/** Values in the order in which they are met, and none that nobody has any more. */
function codes(column: DictionaryColumn, places: ArrayLike<number>, texts: readonly (string | null)[], unreadable: ReadonlyMap<number, string>): DictionaryColumn {
  const known = new Map(column.texts.map((text, code) => [text, code]))
  const replaced = column.codes.slice()
  texts.forEach((text, at) => {
    if (text !== null && !known.has(text)) known.set(text, known.size)
    replaced[places[at]!] = text === null ? BLANK_CODE : known.get(text)!
  })
  const met = new Int32Array(known.size).fill(BLANK_CODE)
  let next = 0
  for (let at = 0; at < replaced.length; at++) {
    const code = replaced[at]!
    if (code === BLANK_CODE) continue
    if (met[code] === BLANK_CODE) met[code] = next++
    replaced[at] = met[code]!
  }
  const order: string[] = []
  for (const [text, code] of known) if (met[code] !== BLANK_CODE) order[met[code]!] = text
  return dictionaryFrom(column.type, replaced, order, unreadable)
}
