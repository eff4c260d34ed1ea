/** What one condition comes to in many places at once, a bit each: records, or combinations of what blanks could be. */
import { FALSE, NULL, TRUE, type Verdict } from '../decide/verdict'

/** By place whether it can come to be true, false, or null. */
export interface TruthRows {
  t: Uint32Array
  f: Uint32Array
  n: Uint32Array
}

export function emptyRows(places: number): TruthRows {
  const words = (places + 31) >>> 5
  return { t: new Uint32Array(words), f: new Uint32Array(words), n: new Uint32Array(words) }
}

export function putVerdict({ t, f, n }: TruthRows, at: number, verdict: Verdict): void {
  const bit = 1 << (at & 31)
  if (verdict & TRUE) t[at >>> 5]! |= bit
  if (verdict & FALSE) f[at >>> 5]! |= bit
  if (verdict & NULL) n[at >>> 5]! |= bit
}

export function negatedRows({ t, f, n }: TruthRows): TruthRows {
  return { t: f, f: t, n }
}

/** All that `and` of the two can come to, as `both` of one place (see `expression/truth`). */
export function bothRows(a: TruthRows, b: TruthRows): TruthRows {
  const { length } = a.t
  const made = { t: new Uint32Array(length), f: new Uint32Array(length), n: new Uint32Array(length) }
  for (let word = 0; word < length; word++) {
    made.t[word] = a.t[word]! & b.t[word]!
    made.f[word] = a.f[word]! | b.f[word]!
    made.n[word] = (a.n[word]! & (b.t[word]! | b.n[word]!)) | (b.n[word]! & a.t[word]!)
  }
  return made
}

export function eitherRows(a: TruthRows, b: TruthRows): TruthRows {
  return negatedRows(bothRows(negatedRows(a), negatedRows(b)))
}
