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
  /** The records that each rule took. */
  readonly caught: readonly Bitmap[]
  readonly otherwise: Bitmap
  readonly unplaced: Bitmap
  readonly held: Bitmap
  readonly contested: Bitmap
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
  let made: Bitmap[] | null = null
  const rows = (): Bitmap[] => {
    if (made) return made
    const all = Array.from({ length: rules + AFTER_RULES.length }, () => emptyBitmap(length))
    const words = all.map((row) => row.words)
    for (let at = 0; at < length; at++) words[codeAt(at)]![at >>> 5]! |= 1 << (at & 31)
    made = all
    return all
  }
  const [otherwise, unplaced, held, contested] = counts.slice(rules) as [number, number, number, number]
  return {
    length,
    counts: { caught: counts.slice(0, rules), otherwise, unplaced, held, contested },
    get caught() { return rows().slice(0, rules) },
    get otherwise() { return rows()[rules]! },
    get unplaced() { return rows()[rules + 1]! },
    get held() { return rows()[rules + 2]! },
    get contested() { return rows()[rules + 3]! },
    codeAt,
    at(place) {
      const code = codeAt(place)
      return code < rules ? { status: 'labelled', rule: code } : { status: AFTER_RULES[code - rules]!, rule: NONE }
    },
  }
}
