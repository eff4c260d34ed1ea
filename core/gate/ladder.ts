/**
 * What the rules come to for every record, 32 at a time: which rule takes it, or why none does. A record that an
 * unknown condition could still give another outcome is held. Done word by word, so that after a change only the
 * words whose verdicts changed are done again.
 */
import { type Bitmap, countBits, emptyBitmap, fullBitmap } from '../table/bitmap'
import { kindOf } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Lowered, LoweredEntry } from './rules'
import type { VerdictBits } from './verdict-bits'

/** Who is where: every record is in exactly one of these bitmaps. */
export interface Decisions {
  readonly length: number
  /** By rule, the records that it decided; with a policy that gathers rules, those that it was the first of. */
  readonly caught: readonly Bitmap[]
  readonly otherwise: Bitmap
  readonly unplaced: Bitmap
  readonly held: Bitmap
  readonly contested: Bitmap
  readonly counts: DecisionCounts
}

export interface DecisionCounts {
  caught: number[]
  otherwise: number
  unplaced: number
  held: number
  contested: number
}

/** A ladder gone through, with what it was gone through for. */
export interface Walked {
  decisions: Decisions
  rules: readonly VerdictBits[]
  /** Equal where two gates give the same outcomes rule for rule. */
  key: string
}

/** The bitmaps of one result in a row: one a rule, then these. */
const AFTER_RULES = ['otherwise', 'unplaced', 'held', 'contested'] as const

/**
 * @param rules the verdicts of the conditions, in order
 * @param before an earlier result over the same records, to be changed where it no longer holds; it is left as it is
 */
export function walkLadder(gate: Lowered, length: number, rules: readonly VerdictBits[], before: Walked | null): Walked {
  const ids = outcomeIds(gate)
  const key = `${gate.hitPolicy} ${gate.otherwise !== null} ${ids.join()}`
  const known = before?.key === key && before.rules.length === rules.length ? before : null
  const rows = known ? rowsOf(known.decisions) : Array.from({ length: rules.length + AFTER_RULES.length }, () => emptyBitmap(length))
  const writer = known ? changedRows(rows) : { put: (row: number, word: number, bits: number) => void (rows[row]!.words[word] = bits) }
  const walkWord = wordWalker(gate, ids, rules, fullBitmap(length).words, writer.put)
  const size = (length + 31) >>> 5
  const dirty = known ? changedWords(known.rules, rules, size) : null
  for (let word = 0; word < size; word++) if (!dirty || dirty[word] === 1) walkWord(word)
  return { decisions: decisionsOf(length, rows, known?.decisions.counts ?? null, known ? rowsOf(known.decisions) : null), rules, key }
}

function rowsOf(decisions: Decisions): Bitmap[] {
  return [...decisions.caught, ...AFTER_RULES.map((name) => decisions[name])]
}

/** Counts what changed; a row that is the same as before has its count already. */
function decisionsOf(length: number, rows: readonly Bitmap[], counts: DecisionCounts | null, before: readonly Bitmap[] | null): Decisions {
  const old = counts && [...counts.caught, ...AFTER_RULES.map((name) => counts[name])]
  const all = rows.map((row, at) => (old && before![at] === row ? old[at]! : countBits(row)))
  return toDecisions(length, rows, all)
}

export function toDecisions(length: number, rows: readonly Bitmap[], counts: readonly number[]): Decisions {
  const rules = rows.length - AFTER_RULES.length
  const [otherwise, unplaced, held, contested] = rows.slice(rules) as [Bitmap, Bitmap, Bitmap, Bitmap]
  const [inOtherwise, inUnplaced, inHeld, inContested] = counts.slice(rules) as [number, number, number, number]
  return {
    length, caught: rows.slice(0, rules), otherwise, unplaced, held, contested,
    counts: { caught: counts.slice(0, rules), otherwise: inOtherwise, unplaced: inUnplaced, held: inHeld, contested: inContested },
  }
}

/** Writes to copies, made when a row first changes. */
function changedRows(rows: Bitmap[]) {
  const copied = new Set<number>()
  return {
    put(row: number, word: number, bits: number): void {
      if (rows[row]!.words[word] === bits >>> 0) return
      if (!copied.has(row)) {
        rows[row] = { length: rows[row]!.length, words: rows[row]!.words.slice() }
        copied.add(row)
      }
      rows[row]!.words[word] = bits
    },
  }
}

/** By word, 1 where any verdict differs. */
function changedWords(before: readonly VerdictBits[], after: readonly VerdictBits[], size: number): Uint8Array {
  const changed = new Uint8Array(size)
  const compare = (a: Bitmap | null, b: Bitmap | null) => {
    if (a === b) return
    for (let i = 0; i < size; i++) if ((a ? a.words[i] : 0) !== (b ? b.words[i] : 0)) changed[i] = 1
  }
  after.forEach((bits, rule) => {
    const old = before[rule]!
    if (bits === old) return
    compare(old.t, bits.t)
    compare(old.f, bits.f)
    compare(old.n, bits.n)
  })
  return changed
}

/** Decides the 32 records of a word and hands each row's bits to `put`. */
function wordWalker(gate: Lowered, ids: Int32Array, rules: readonly VerdictBits[], valid: Uint32Array, put: (row: number, word: number, bits: number) => void) {
  const [ts, fs] = [rules.map(({ t }) => t.words), rules.map(({ f }) => f.words)]
  const ns = rules.map(({ n }) => n?.words ?? null)
  const [otherwise, unplaced, held, contested] = [0, 1, 2, 3].map((at) => rules.length + at) as [number, number, number, number]
  const rest = gate.otherwise ? otherwise : unplaced
  const other = gate.otherwise ? unplaced : otherwise
  const otherwiseId = ids[rules.length]!
  const takes = gate.hitPolicy === 'first'
  const possible = new Possibilities()
  const truths = new Possibilities()

  return (word: number): void => {
    let open = valid[word]!
    let sure = 0
    possible.clear()
    truths.clear()
    for (let rule = 0; rule < ts.length; rule++) {
      const can = ts[rule]![word]! & open
      if (can === 0) {
        put(rule, word, 0)
        continue
      }
      const n = ns[rule]
      const is = n ? can & ~fs[rule]![word]! & ~n[word]! : can & ~fs[rule]![word]!
      if (takes) {
        // Only what met an unknown, here or before, has possibilities to compare.
        const noted = (can & ~is) | (is & possible.met)
        if (noted !== 0) possible.add(noted, ids[rule]!)
        // A record whose possibilities differ is held whatever comes.
        put(rule, word, is & ~possible.torn)
        open &= ~is & ~possible.torn
      } else {
        possible.add(can, ids[rule]!)
        if (is !== 0) truths.add(is, ids[rule]!)
        put(rule, word, is & ~sure)
      }
      sure |= is
    }
    const left = valid[word]! & ~sure & ~possible.torn
    const unsure = left & possible.met
    if (unsure !== 0) possible.add(unsure, otherwiseId)
    const apart = truths.torn
    const torn = possible.torn & ~apart
    put(rest, word, left & ~torn)
    put(other, word, 0)
    put(held, word, torn)
    put(contested, word, apart)
    if (takes || (torn | apart) === 0) return
    for (let rule = 0, seen = 0; rule < ts.length; rule++) {
      const can = ts[rule]![word]! & ~fs[rule]![word]! & ~(ns[rule]?.[word] ?? 0) & valid[word]!
      put(rule, word, can & ~seen & ~torn & ~apart)
      seen |= can
    }
  }
}

/** The outcomes still possible for the records of one word: whether there is one, which, and whether there are several. */
class Possibilities {
  met = 0
  torn = 0
  private readonly first = new Int32Array(32)

  clear(): void {
    this.met = 0
    this.torn = 0
  }

  /** Adds the outcome `id` to the possibilities of the records whose bits are set. */
  add(bits: number, id: number): void {
    // Written out, without a function for each bit: blanks are many, and this runs while a cut is dragged.
    for (let left = bits & ~this.met; left !== 0; left &= left - 1) this.first[31 - Math.clz32(left & -left)] = id
    for (let left = bits & this.met & ~this.torn; left !== 0; left &= left - 1) {
      const lowest = left & -left
      if (this.first[31 - Math.clz32(lowest)] !== id) this.torn |= lowest
    }
    this.met |= bits
  }
}

/** By rule a number for its outcomes, equal where they are the same; the last is otherwise's. An expression is like nothing else. */
function outcomeIds(gate: Lowered): Int32Array {
  const known = new Map<string, number>()
  const idOf = (entries: readonly LoweredEntry[] | null, fresh: string): number => {
    const isLiteral = entries?.every((entry) => 'value' in entry)
    const key = isLiteral ? JSON.stringify(entries!.map((entry) => 'value' in entry && [kindOf(entry.value), textOfValue(entry.value)])) : fresh
    if (!known.has(key)) known.set(key, known.size)
    return known.get(key)!
  }
  return Int32Array.from([...gate.rules.map(({ entries }, rule) => idOf(entries, `rule ${rule}`)), idOf(gate.otherwise, 'otherwise')])
}

