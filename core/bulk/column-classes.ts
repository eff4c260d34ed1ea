/** Classes of a column's values under the tests that are asked of it: values that no test tells apart are one class. */
import { type Bitmap, countBits } from '../table/bitmap'
import type { DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import type { RangeValue } from '../value/value'
import { type ClassBitmaps, classesOfCodes, classesOfDoubles, MOST_CLASSES, recordsInClasses } from './class-bitmaps'
import { stretchOf } from './scan'
import type { Verdict } from '../decide/verdict'

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

/** A verdict is three bits. */
const VERDICTS = 8

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
  const count = column.values.length
  const classOf = new Uint8Array(count + 1)
  let known = count > 0 ? 1 : 0
  // Test after test each class is split by what the test says of its values.
  for (const test of verdicts) {
    const split = new Int16Array(known * VERDICTS).fill(-1)
    known = 0
    for (let code = 0; code < count; code++) {
      const part = classOf[code]! * VERDICTS + test[code]!
      if (split[part] === -1) split[part] = known++
      if (known >= MOST_CLASSES) return null
      classOf[code] = split[part]!
    }
  }
  classOf[count] = known
  return { codes: Array.from({ length: known }, (_, place) => classOf.indexOf(place)), classes: classesOfCodes(column, classOf, known + 1) }
}

/** The records whose value's verdict is wanted, by code; `blank` speaks for records without one. */
export function recordsOfCodes({ codes, classes }: CodeClasses, isWanted: (code: number) => boolean, blank: boolean, length: number): Bitmap {
  return recordsInClasses(classes, (place) => (place < codes.length ? isWanted(codes[place]!) : blank), length)
}

/** The records without a value; null where there is none. */
export function blanksOfCodes({ classes }: CodeClasses): Bitmap | null {
  const blanks = classes.at(-1)!
  return countBits(blanks) === 0 ? null : blanks
}
