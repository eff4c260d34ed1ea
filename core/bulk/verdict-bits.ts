/** Verdicts of one test or condition for all records at once: a bitmap for each thing it can still turn out to be (see `Verdict`). */
import { type Bitmap, complement, emptyBitmap, fullBitmap, hasBit, intersection, trimmed, union, without } from '../table/bitmap'
import type { Condition, Test } from '../rule/condition'
import { FALSE, NULL, TRUE, type Verdict } from '../decide/verdict'

export interface VerdictBits {
  /** Records for which it can be true. */
  t: Bitmap
  /** Records for which it can be false; null where nothing is open, so that these are all the others. */
  f: Bitmap | null
  /** Records for which it can be null for good; left out where there is none. */
  n: Bitmap | null
}

export function verdictAt({ t, f, n }: VerdictBits, at: number): Verdict {
  const canBeTrue = hasBit(t, at)
  const canBeFalse = f ? hasBit(f, at) : !canBeTrue
  return (canBeTrue ? TRUE : 0) | (canBeFalse ? FALSE : 0) | (n && hasBit(n, at) ? NULL : 0)
}

/**
 * @param yes where the test is true; used up, so that nobody else may hold it
 * @param apart records for which it is `verdict` all the same; null for none. For all others it is false
 */
export function verdictBits(yes: Bitmap, apart: Bitmap | null, verdict: Verdict): VerdictBits {
  if (!apart) return { t: yes, f: null, n: null }
  if (verdict === TRUE) return { t: union(yes, apart), f: null, n: null }
  if (verdict === FALSE) return { t: without(yes, apart), f: null, n: null }
  if (verdict === NULL) return { t: without(yes, apart), f: complement(union(yes, apart)), n: apart }
  const { length, words } = yes
  const [f, out] = [new Uint32Array(words.length), apart.words]
  for (let i = 0; i < f.length; i++) {
    f[i] = ~words[i]! | out[i]!
    words[i]! |= out[i]!
  }
  return { t: yes, f: trimmed({ length, words: f }), n: null }
}

/** `verdictOf`, for all records. */
export function conditionBits(condition: Condition, length: number, test: (test: Test) => VerdictBits): VerdictBits {
  switch (condition.kind) {
    case 'test':
      return test(condition)
    case 'not':
      return negated(conditionBits(condition.of, length, test))
    case 'all': {
      const [first, ...rest] = condition.of.map((part) => conditionBits(part, length, test))
      return first ? rest.reduce(both, first) : { t: fullBitmap(length), f: null, n: null }
    }
    case 'any': {
      const [first, ...rest] = condition.of.map((part) => conditionBits(part, length, test))
      return first ? rest.reduce(either, first) : { t: emptyBitmap(length), f: null, n: null }
    }
  }
}

function negated(bits: VerdictBits): VerdictBits {
  return bits.f ? { t: bits.f, f: bits.t, n: bits.n } : { t: complement(bits.t), f: null, n: null }
}

function either(a: VerdictBits, b: VerdictBits): VerdictBits {
  return a.f || b.f ? negated(both(negated(a), negated(b))) : { t: union(a.t, b.t), f: null, n: null }
}

function both(a: VerdictBits, b: VerdictBits): VerdictBits {
  const t = intersection(a.t, b.t)
  if (!a.f && !b.f) return { t, f: null, n: null }
  const f = union(a.f ?? complement(a.t), b.f ?? complement(b.t))
  return { t, f, n: a.n || b.n ? bothNull(a, b) : null }
}

function bothNull(a: VerdictBits, b: VerdictBits): Bitmap {
  const n = emptyBitmap(a.t.length)
  for (let i = 0; i < n.words.length; i++) {
    const [an, bn] = [a.n ? a.n.words[i]! : 0, b.n ? b.n.words[i]! : 0]
    n.words[i] = (an & (b.t.words[i]! | bn)) | (bn & (a.t.words[i]! | an))
  }
  return n
}
