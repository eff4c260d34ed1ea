/** What became of every record of a table. */
import { type Bitmap, emptyBitmap } from '../table/bitmap'
import { NONE, type Status } from '../rule/rules'

/** What may become of a record that no rule took, in the order of its codes. */
export const AFTER_RULES = ['otherwise', 'unplaced', 'held', 'contested'] as const
export type AfterRules = (typeof AFTER_RULES)[number]

export interface DecisionCounts {
  /** Records that each rule took, in the order of the rules. */
  caught: number[]
  otherwise: number
  unplaced: number
  held: number
  contested: number
}

/** Holds until its decider decides again; then only what was looked at before can still be had. */
export interface Decisions {
  readonly length: number
  readonly counts: DecisionCounts
  /** The records that one of these took, a rule by its place, or became after all rules. */
  having(wanted: readonly (number | AfterRules)[]): Bitmap
  at(place: number): { status: Status; rule: number }
  /** The same as a number (see `codeOf`): for whoever asks it of each record of a million. */
  codeAt(place: number): number
}

/** A decision as a number: a rule's place, or after all rules what else became of the record. */
export function codeOf(status: Status, rule: number, rules: number): number {
  return status === 'labelled' ? rule : rules + AFTER_RULES.indexOf(status)
}

/**
 * @param counts by code
 * @param codeAt a record's code
 */
export function decisionsOf(length: number, rules: number, counts: readonly number[], codeAt: (place: number) => number): Decisions {
  const known = new Map<string, Bitmap>()
  const [otherwise, unplaced, held, contested] = counts.slice(rules) as [number, number, number, number]
  return {
    length,
    counts: { caught: counts.slice(0, rules), otherwise, unplaced, held, contested },
    having(wanted) {
      const key = wanted.join()
      const found = known.get(key) ?? havingCodes(length, codesOf(wanted, rules), codeAt)
      known.set(key, found)
      return found
    },
    codeAt,
    at(place) {
      const code = codeAt(place)
      return code < rules ? { status: 'labelled', rule: code } : { status: AFTER_RULES[code - rules]!, rule: NONE }
    },
  }
}

/** By code whether it is wanted. */
function codesOf(wanted: readonly (number | AfterRules)[], rules: number): Uint8Array {
  const isWanted = new Uint8Array(rules + AFTER_RULES.length)
  for (const one of wanted) {
    const code = typeof one === 'number' ? one : rules + AFTER_RULES.indexOf(one)
    // A rule that the gate does not have took none.
    if (typeof one !== 'number' || one < rules) isWanted[code] = 1
  }
  return isWanted
}

function havingCodes(length: number, isWanted: Uint8Array, codeAt: (place: number) => number): Bitmap {
  const bitmap = emptyBitmap(length)
  const { words } = bitmap
  for (let word = 0; word < words.length; word++) {
    const [from, to] = [word * 32, Math.min(length, word * 32 + 32)]
    let bits = 0
    for (let at = from; at < to; at++) bits |= isWanted[codeAt(at)]! << (at & 31)
    words[word] = bits
  }
  return bitmap
}
