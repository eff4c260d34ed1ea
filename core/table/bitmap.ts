/** Sets of records: one bit for each record, in words of 32, as Arrow lays out validity. */

export interface Bitmap {
  readonly length: number
  readonly words: Uint32Array
}

export function emptyBitmap(length: number): Bitmap {
  return { length, words: new Uint32Array((length + 31) >>> 5) }
}

export function fullBitmap(length: number): Bitmap {
  const bitmap = emptyBitmap(length)
  bitmap.words.fill(0xffffffff)
  return trimmed(bitmap)
}

export function bitmapOf(places: Iterable<number>, length: number): Bitmap {
  const bitmap = emptyBitmap(length)
  for (const at of places) setBit(bitmap, at)
  return bitmap
}

/** The records that are in any of `bitmaps`, each of `length`. */
export function unionOf(bitmaps: readonly Bitmap[], length: number): Bitmap {
  const union = emptyBitmap(length)
  for (const { words } of bitmaps) for (let i = 0; i < words.length; i++) union.words[i]! |= words[i]!
  return union
}

/** The records that are in both. */
export function intersection(a: Bitmap, b: Bitmap): Bitmap {
  const [left, right, words] = [a.words, b.words, new Uint32Array(a.words.length)]
  for (let i = 0; i < words.length; i++) words[i] = left[i]! & right[i]!
  return { length: a.length, words }
}

/** The records that are in either. */
export function union(a: Bitmap, b: Bitmap): Bitmap {
  const [left, right, words] = [a.words, b.words, new Uint32Array(a.words.length)]
  for (let i = 0; i < words.length; i++) words[i] = left[i]! | right[i]!
  return { length: a.length, words }
}

/** The records that are not in the set. */
export function complement({ length, words }: Bitmap): Bitmap {
  const outside = new Uint32Array(words.length)
  for (let i = 0; i < words.length; i++) outside[i] = ~words[i]!
  return trimmed({ length, words: outside })
}

/** The records of `bitmap` that are not in `out`. */
export function without({ length, words }: Bitmap, out: Bitmap): Bitmap {
  const left = new Uint32Array(words.length)
  for (let i = 0; i < words.length; i++) left[i] = words[i]! & ~out.words[i]!
  return { length, words: left }
}

export function isFull({ length, words }: Bitmap): boolean {
  const whole = length >>> 5
  for (let i = 0; i < whole; i++) if (words[i] !== 0xffffffff) return false
  return length % 32 === 0 || words[whole] === ((1 << length % 32) - 1) >>> 0
}

/** Bits beyond the last record stay unset. */
export function trimmed(bitmap: Bitmap): Bitmap {
  if (bitmap.length % 32 !== 0) bitmap.words[bitmap.words.length - 1]! &= (1 << bitmap.length % 32) - 1
  return bitmap
}

export function hasBit({ words }: Bitmap, at: number): boolean {
  return ((words[at >>> 5]! >>> (at & 31)) & 1) === 1
}

export function setBit({ words }: Bitmap, at: number): void {
  words[at >>> 5]! |= 1 << (at & 31)
}

/** How many records are in the set. */
export function countBits({ words }: Bitmap): number {
  let total = 0
  // Kept in 32 bits all the way, which the machine counts in without a detour.
  for (let i = 0; i < words.length; i++) total = (total + bitsIn(words[i]! | 0)) | 0
  return total
}

function bitsIn(word: number): number {
  const pairs = (word - ((word >>> 1) & 0x55555555)) | 0
  const fours = ((pairs & 0x33333333) + ((pairs >>> 2) & 0x33333333)) | 0
  return Math.imul((fours + (fours >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}

/** The places of the set bits, ascending. */
export function placesOf(bitmap: Bitmap): Uint32Array {
  const places = new Uint32Array(countBits(bitmap))
  let next = 0
  bitmap.words.forEach((word, index) => {
    for (let left = word; left !== 0; left &= left - 1) places[next++] = index * 32 + 31 - Math.clz32(left & -left)
  })
  return places
}

/** The places of the set bits from the one numbered `from` up to, not including, `to`: those before are only counted. */
export function placesBetween({ words }: Bitmap, from: number, to: number): number[] {
  const places: number[] = []
  for (let index = 0, before = 0; index < words.length && before < to; index++) {
    const bits = bitsIn(words[index]! | 0)
    let at = before
    before += bits
    if (before <= from) continue
    for (let left = words[index]!; left !== 0 && at < to; left &= left - 1, at++) if (at >= from) places.push(index * 32 + 31 - Math.clz32(left & -left))
  }
  return places
}
