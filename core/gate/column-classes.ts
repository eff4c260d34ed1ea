/** Classes of a column's values under the tests that are asked of it: values that no test tells apart are one class. */
import type { Bitmap } from '../table/bitmap'
import type { DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import type { RangeValue } from '../value/value'
import { type ClassBitmaps, classesOfCodes, classesOfDoubles, MOST_CLASSES, recordsInClasses } from './class-bitmaps'
import { stretchOf } from './scan'
import type { Verdict } from './verdict'

export interface NumberClasses {
  thresholds: readonly number[]
  classes: ClassBitmaps
}

/** @returns null where the pieces have more ends than there are classes */
export function numberClasses(column: NumberColumn, pieces: readonly RangeValue[]): NumberClasses | null {
  const ends = pieces.flatMap((piece) => stretchOf(piece)).filter(Number.isFinite)
  const thresholds = [...new Set(ends)].sort((a, b) => a - b)
  return thresholds.length >= MOST_CLASSES ? null : { thresholds, classes: classesOfDoubles(column.doubles, thresholds) }
}

/** The records whose doubles lie in a piece; null where the classes do not tell that piece's ends apart. */
export function recordsInPiece({ thresholds, classes }: NumberClasses, piece: RangeValue, length: number): Bitmap | null {
  const [from, to] = stretchOf(piece)
  const [first, last] = [from === -Infinity ? 0 : thresholds.indexOf(from) + 1, to === Infinity ? classes.length : thresholds.indexOf(to) + 1]
  if ((first === 0 && from !== -Infinity) || last === 0) return null
  return recordsInClasses(classes, (place) => place >= first && place < last, length)
}

export interface CodeClasses {
  /** For each class the code of a value in it; the last class is that of blanks, and has none. */
  codes: readonly number[]
  classes: ClassBitmaps
}

/**
 * @param verdicts for each test the verdicts of all values, by code
 * @returns null where the tests tell more values apart than there are classes
 */
export function codeClasses(column: DictionaryColumn, verdicts: readonly (readonly Verdict[])[]): CodeClasses | null {
  const known = new Map<string, number>()
  const classOf = new Uint8Array(column.values.length + 1)
  for (const code of column.values.keys()) {
    const signature = verdicts.map((test) => test[code]).join('')
    if (!known.has(signature)) known.set(signature, known.size)
    if (known.size >= MOST_CLASSES) return null
    classOf[code] = known.get(signature)!
  }
  classOf[classOf.length - 1] = known.size
  return { codes: Array.from({ length: known.size }, (_, place) => classOf.indexOf(place)), classes: classesOfCodes(column, classOf, known.size + 1) }
}

/** The records whose value's verdict is wanted, by code; `blank` speaks for records without one. */
export function recordsOfCodes({ codes, classes }: CodeClasses, isWanted: (code: number) => boolean, blank: boolean, length: number): Bitmap {
  return recordsInClasses(classes, (place) => (place < codes.length ? isWanted(codes[place]!) : blank), length)
}
