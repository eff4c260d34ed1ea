/**
 * What the rules come to for every record, 32 at a time: which rule takes it, or why none does. A record that an
 * unknown condition could still give another outcome is held. After a change only the words of 32 are done again in
 * which a verdict changed.
 */
import { type Bitmap, countBits, fullBitmap } from '../table/bitmap'
import { kindOf } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Lowered, LoweredEntry } from '../rule/rules'
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
  const size = (length + 31) >>> 5
  const earlier = known && rowsOf(known.decisions)
  const words = known ? changedWords(known.rules, rules, size) : Uint32Array.from({ length: size }, (_, word) => word)
  const isOpen = rules.some(({ f }) => f !== null)
  const cells = gate.hitPolicy !== 'first' ? together(gate, ids, rules, words, length) : isOpen ? oneAfterTheOther(gate, ids, rules, words, length) : inTurn(gate, rules, words, length)
  const rows = earlier ? earlier.map((row, at) => changedRow(row, words, cells[at]!)) : cells.map((bits): Bitmap => ({ length, words: bits }))
  return { decisions: decisionsOf(length, rows, known?.decisions.counts ?? null, earlier), rules, key }
}

/** A row with some words put in; itself where they are what it has. */
function changedRow(row: Bitmap, words: Uint32Array, bits: Uint32Array): Bitmap {
  let changed: Uint32Array | null = null
  for (let at = 0; at < words.length; at++) {
    if (row.words[words[at]!] === bits[at]) continue
    changed ??= row.words.slice()
    changed[words[at]!] = bits[at]!
  }
  return changed ? { length: row.length, words: changed } : row
}

/** The words that hold records, all of their bits set; the last one may hold fewer. */
function wholeWords(words: Uint32Array, length: number): Uint32Array {
  const all = fullBitmap(length).words
  return words.map((word) => all[word]!)
}

/** Rows of bits for `words`: one a rule, then otherwise, unplaced, held and contested. */
function emptyCells(rules: readonly VerdictBits[], words: Uint32Array): Uint32Array[] {
  return Array.from({ length: rules.length + AFTER_RULES.length }, () => new Uint32Array(words.length))
}

function restRow(gate: Lowered): number {
  return gate.rules.length + AFTER_RULES.indexOf(gate.otherwise ? 'otherwise' : 'unplaced')
}

/** Where nothing is open each rule takes what is left. */
function inTurn(gate: Lowered, rules: readonly VerdictBits[], words: Uint32Array, length: number): Uint32Array[] {
  const cells = emptyCells(rules, words)
  const open = wholeWords(words, length)
  rules.forEach((bits, rule) => {
    const [t, caught] = [bits.t.words, cells[rule]!]
    for (let at = 0; at < words.length; at++) {
      const taken = t[words[at]!]! & open[at]!
      caught[at] = taken
      open[at]! &= ~taken
    }
  })
  cells[restRow(gate)] = open
  return cells
}

let room = new Int32Array(0)

/** Room that is used again from one walk to the next: making it anew would cost as much as a rule. */
function roomFor(records: number): Int32Array<ArrayBuffer> {
  if (room.length < records) room = new Int32Array(records)
  return room
}

/** First: each rule takes what is left, and what a rule could still have taken before is compared with that. */
function oneAfterTheOther(gate: Lowered, ids: Int32Array, rules: readonly VerdictBits[], words: Uint32Array, length: number): Uint32Array[] {
  const cells = emptyCells(rules, words)
  const open = wholeWords(words, length)
  const possible = new Possibilities(words.length, roomFor(words.length * 32))
  const { met, torn } = possible
  rules.forEach(({ t, f, n }, rule) => takeOpenly(words, t.words, f?.words ?? null, n?.words ?? null, open, possible, cells[rule]!, ids[rule]!))
  for (let at = 0; at < words.length; at++) {
    const unsure = open[at]! & met[at]!
    if (unsure !== 0) possible.add(at, unsure, ids[rules.length]!)
    open[at]! &= ~torn[at]!
  }
  cells[restRow(gate)] = open
  cells[rules.length + AFTER_RULES.indexOf('held')] = torn
  return cells
}

/** One rule of `oneAfterTheOther`. */
function takeOpenly(words: Uint32Array, t: Uint32Array, f: Uint32Array | null, n: Uint32Array | null, open: Uint32Array, possible: Possibilities, caught: Uint32Array, id: number): void {
  const { met, torn, first } = possible
  for (let at = 0; at < words.length; at++) {
    const word = words[at]!
    const can = t[word]! & open[at]!
    if (can === 0) continue
    let is = f ? can & ~f[word]! : can
    if (n) is &= ~n[word]!
    const before = met[at]!
    // Only what met an unknown, here or before, has possibilities to compare.
    const noted = (can & ~is) | (is & before)
    if (noted === 0) {
      caught[at] = is
      open[at]! &= ~is
      continue
    }
    // As `Possibilities.add` does it, without a call for each of a million words.
    let apart = torn[at]!
    for (let left = noted & ~before; left !== 0; left &= left - 1) first[at * 32 + 31 - Math.clz32(left & -left)] = id
    for (let left = noted & before & ~apart; left !== 0; left &= left - 1) {
      const lowest = left & -left
      if (first[at * 32 + 31 - Math.clz32(lowest)] !== id) apart |= lowest
    }
    met[at] = before | noted
    torn[at] = apart
    // A record whose possibilities differ is held whatever comes.
    caught[at] = is & ~apart
    open[at]! &= ~(is | apart)
  }
}

/** Unique and Any: all true rules must give the same, and a possible one must not change that. */
function together(gate: Lowered, ids: Int32Array, rules: readonly VerdictBits[], words: Uint32Array, length: number): Uint32Array[] {
  const cells = emptyCells(rules, words)
  const left = wholeWords(words, length)
  const [possible, truths] = [new Possibilities(words.length), new Possibilities(words.length)]
  rules.forEach((bits, rule) => {
    const [t, f, n] = [bits.t.words, bits.f?.words, bits.n?.words]
    for (let at = 0; at < words.length; at++) {
      const word = words[at]!
      const can = t[word]!
      const is = can & ~(f ? f[word]! : 0) & ~(n ? n[word]! : 0)
      if (can !== 0) possible.add(at, can, ids[rule]!)
      cells[rule]![at] = is & left[at]!
      left[at]! &= ~is
      if (is !== 0) truths.add(at, is, ids[rule]!)
    }
  })
  const held = cells[rules.length + AFTER_RULES.indexOf('held')]!
  for (let at = 0; at < words.length; at++) {
    const unsure = left[at]! & possible.met[at]!
    if (unsure !== 0) possible.add(at, unsure, ids[rules.length]!)
    held[at] = possible.torn[at]! & ~truths.torn[at]!
    const out = held[at]! | truths.torn[at]!
    if (out === 0) continue
    left[at]! &= ~out
    for (let rule = 0; rule < rules.length; rule++) cells[rule]![at]! &= ~out
  }
  cells[restRow(gate)] = left
  cells[rules.length + AFTER_RULES.indexOf('contested')] = truths.torn
  return cells
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

/** The words in which any verdict differs, ascending. */
function changedWords(before: readonly VerdictBits[], after: readonly VerdictBits[], size: number): Uint32Array {
  const changed = new Uint8Array(size)
  const compare = (a: Bitmap | null, b: Bitmap | null) => {
    if (a === b) return
    for (let i = 0; i < size; i++) if ((a ? a.words[i] : 0) !== (b ? b.words[i] : 0)) changed[i] = 1
  }
  after.forEach((bits, rule) => {
    const old = before[rule]!
    if (bits === old) return
    compare(old.t, bits.t)
    if ((old.f === null) !== (bits.f === null)) changed.fill(1)
    else compare(old.f, bits.f)
    compare(old.n, bits.n)
  })
  const words: number[] = []
  for (let word = 0; word < size; word++) if (changed[word] === 1) words.push(word)
  return Uint32Array.from(words)
}

/** The outcomes still possible for records: whether there is one, which, and whether there are several. */
class Possibilities {
  readonly met: Uint32Array
  readonly torn: Uint32Array
  /** By record, which; meaningless where none was met. */
  readonly first: Int32Array

  /** @param first room for one number a record; what is in it does not matter */
  constructor(words: number, first = new Int32Array(words * 32)) {
    this.met = new Uint32Array(words)
    this.torn = new Uint32Array(words)
    this.first = first
  }

  /** Adds the outcome `id` to the possibilities of the records whose bits are set, in the word at `at`. */
  add(at: number, bits: number, id: number): void {
    const { met, torn, first } = this
    const before = met[at]!
    // Written out, without a function for each bit: blanks are many, and this runs while a cut is dragged.
    for (let left = bits & ~before; left !== 0; left &= left - 1) first[at * 32 + 31 - Math.clz32(left & -left)] = id
    for (let left = bits & before & ~torn[at]!; left !== 0; left &= left - 1) {
      const lowest = left & -left
      if (first[at * 32 + 31 - Math.clz32(lowest)] !== id) torn[at]! |= lowest
    }
    met[at] = before | bits
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

