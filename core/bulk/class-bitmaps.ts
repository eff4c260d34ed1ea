/** The records of a column by class, so that many tests on one column cost one look at its values. */
import { type Bitmap, emptyBitmap } from '../table/bitmap'
import type { DictionaryColumn } from '../table/dictionary-column'

/** With more, a bitmap for each would take more room, and more time to join, than they save. */
export const MOST_CLASSES = 40

/** One bitmap a class; every record is in exactly one. */
export type ClassBitmaps = readonly Bitmap[]

/**
 * The class of a double is how many of `thresholds` are at most it.
 * @param thresholds ascending, fewer than MOST_CLASSES
 */
export function classesOfDoubles(doubles: Float64Array, thresholds: readonly number[]): ClassBitmaps {
  const { length } = doubles
  const { words, size, bitmaps } = room(thresholds.length + 1, length)
  if (thresholds.length > AT_ONCE) {
    const padded = paddedToPower(thresholds)
    for (let at = 0; at < length; at++) words[countAtMost(padded, doubles[at]!) * size + (at >>> 5)]! |= 1 << (at & 31)
    return bitmaps()
  }
  const [a, b, c, d, e, f, g, h, i, j, k, l] = [...thresholds, ...Array<number>(AT_ONCE).fill(Infinity)] as [number, number, number, number, number, number, number, number, number, number, number, number]
  // Twelve comparisons in a row, added up, take a third of the time of a search by halves: the processor guesses nothing.
  for (let at = 0; at < length; at++) {
    const value = doubles[at]!
    const found = Number(a <= value) + Number(b <= value) + Number(c <= value) + Number(d <= value) + Number(e <= value) + Number(f <= value) +
      Number(g <= value) + Number(h <= value) + Number(i <= value) + Number(j <= value) + Number(k <= value) + Number(l <= value)
    words[found * size + (at >>> 5)]! |= 1 << (at & 31)
  }
  return bitmaps()
}

const AT_ONCE = 12

function paddedToPower(thresholds: readonly number[]): Float64Array {
  let room = 1
  while (room <= thresholds.length) room *= 2
  const padded = new Float64Array(room).fill(Infinity)
  padded.set(thresholds)
  return padded
}

function countAtMost(padded: Float64Array, value: number): number {
  let found = 0
  for (let step = padded.length >>> 1; step > 0; step >>>= 1) found += Number(padded[found + step - 1]! <= value) * step
  return found
}

/** @param classOf by code; that of a blank comes after those of all codes @param count of classes */
export function classesOfCodes({ codes, length }: DictionaryColumn, classOf: Uint8Array, count: number): ClassBitmaps {
  const { words, size, bitmaps } = room(count, length)
  // One place further, so that the code of a blank, -1, has one too.
  const by = new Uint8Array(classOf.length)
  by[0] = classOf.at(-1)!
  by.set(classOf.subarray(0, -1), 1)
  for (let at = 0; at < length; at++) words[by[codes[at]! + 1]! * size + (at >>> 5)]! |= 1 << (at & 31)
  return bitmaps()
}

/** Words for all bitmaps side by side. */
function room(count: number, length: number) {
  const size = (length + 31) >>> 5
  const words = new Uint32Array(count * size)
  const bitmaps = () => Array.from({ length: count }, (_, at): Bitmap => ({ length, words: words.subarray(at * size, (at + 1) * size) }))
  return { words, size, bitmaps }
}

/**
 * The records whose class is wanted.
 * @param length records in the column
 */
export function recordsInClasses(classes: ClassBitmaps, isWanted: (place: number) => boolean, length: number): Bitmap {
  const found = emptyBitmap(length)
  const { words } = found
  classes.forEach((bitmap, place) => {
    if (!isWanted(place)) return
    const some = bitmap.words
    for (let i = 0; i < words.length; i++) words[i]! |= some[i]!
  })
  return found
}
