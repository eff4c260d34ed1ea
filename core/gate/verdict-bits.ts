/** Verdicts of one test or condition for all records at once: a bitmap for each thing it can still turn out to be (see `Verdict`). */
import { type Bitmap, emptyBitmap, fullBitmap, hasBit, trimmed } from '../table/bitmap'
import type { Condition, Test } from './condition'
import { FALSE, NULL, TRUE, type Verdict } from './verdict'

export interface VerdictBits {
  /** Records for which it can be true, and for which it can be false; one of them at least, or else it is null. */
  t: Bitmap
  f: Bitmap
  /** Records for which it can be null for good; left out where there is none. */
  n: Bitmap | null
}

export function verdictAt({ t, f, n }: VerdictBits, at: number): Verdict {
  return (hasBit(t, at) ? TRUE : 0) | (hasBit(f, at) ? FALSE : 0) | (n && hasBit(n, at) ? NULL : 0)
}

/**
 * @param yes where the test is true
 * @param apart records for which it is `verdict`, none of them in `yes`; null for none. For all others it is false
 */
export function verdictBits(yes: Bitmap, apart: Bitmap | null, verdict: Verdict): VerdictBits {
  const { length } = yes
  const [t, f] = [yes.words.slice(), new Uint32Array(yes.words.length)]
  for (let i = 0; i < f.length; i++) {
    const out = apart ? apart.words[i]! : 0
    f[i] = ~(t[i]! | out)
    if (verdict & TRUE) t[i]! |= out
    if (verdict & FALSE) f[i]! |= out
  }
  return { t: { length, words: t }, f: trimmed({ length, words: f }), n: apart && verdict & NULL ? apart : null }
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
      return first ? rest.reduce(both, first) : { t: fullBitmap(length), f: emptyBitmap(length), n: null }
    }
    case 'any': {
      const [first, ...rest] = condition.of.map((part) => negated(conditionBits(part, length, test)))
      return negated(first ? rest.reduce(both, first) : { t: fullBitmap(length), f: emptyBitmap(length), n: null })
    }
  }
}

function negated({ t, f, n }: VerdictBits): VerdictBits {
  return { t: f, f: t, n }
}

function both(a: VerdictBits, b: VerdictBits): VerdictBits {
  const size = a.t.words.length
  const [t, f] = [new Uint32Array(size), new Uint32Array(size)]
  const [at, af, bt, bf] = [a.t.words, a.f.words, b.t.words, b.f.words]
  for (let i = 0; i < size; i++) {
    t[i] = at[i]! & bt[i]!
    f[i] = af[i]! | bf[i]!
  }
  const { length } = a.t
  return { t: { length, words: t }, f: { length, words: f }, n: a.n || b.n ? bothNull(a, b) : null }
}

function bothNull(a: VerdictBits, b: VerdictBits): Bitmap {
  const n = emptyBitmap(a.t.length)
  for (let i = 0; i < n.words.length; i++) {
    const [an, bn] = [a.n ? a.n.words[i]! : 0, b.n ? b.n.words[i]! : 0]
    n.words[i] = (an & (b.t.words[i]! | bn)) | (bn & (a.t.words[i]! | an))
  }
  return n
}
