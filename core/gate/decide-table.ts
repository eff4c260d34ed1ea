/** Every record of a table decided at once, over bitmaps; equal, record for record, to `decideRecord`. */
import { type Bitmap, emptyBitmap, fullBitmap, hasBit } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'
import type { Decision } from './decide-record'
import { isOpen } from './interval'
import type { IntervalPlaces } from './interval-places'
import { type LabelRules, NONE } from './rules'

/** Who is where: every record is in exactly one of these bitmaps. */
export interface Decisions {
  readonly length: number
  /** By rule, the records that it decided. */
  readonly caught: readonly Bitmap[]
  readonly held: Bitmap
  readonly unplaced: Bitmap
}

/** Decides a column's records by rules, with the places of each test known for the column. */
export function decideTable(column: NumberColumn, places: IntervalPlaces, rules: LabelRules): Decisions {
  return walk(column, rules, rules.rules.map(({ test }) => (isOpen(test) ? fullBitmap(column.length) : places.inside(test))))
}

/** What `decideRecord` would say of the record at place `at`. */
export function decisionAt({ caught, held, unplaced }: Decisions, { rules }: LabelRules, at: number): Decision {
  if (hasBit(held, at)) return { status: 'held', rule: NONE, label: NONE }
  if (hasBit(unplaced, at)) return { status: 'unplaced', rule: NONE, label: NONE }
  const rule = caught.findIndex((places) => hasBit(places, at))
  return { status: 'labelled', rule, label: rules[rule]!.label }
}

function walk({ length, valid }: NumberColumn, { rules }: LabelRules, places: Bitmap[]): Decisions {
  const undecided = fullBitmap(length)
  const caught = rules.map(() => emptyBitmap(length))
  const possibilities = possibleLabels(length)
  const { met, torn } = possibilities

  for (const [index, { test, label }] of rules.entries()) {
    // A test open on both sides is never unknown.
    const known = isOpen(test) ? null : valid
    const decided = caught[index]!
    const { words } = places[index]!
    for (let i = 0; i < words.length; i++) {
      const open = undecided.words[i]!
      if (open === 0) continue
      const taken = open & words[i]!
      // Blank and unreadable values make the test unknown: its label stays possible.
      const possible = (known ? open & ~known.words[i]! : 0) | (taken & met.words[i]!)
      if (possible !== 0) possibilities.add(i, possible, label)
      decided.words[i] = taken
      undecided.words[i] = open & ~taken
    }
  }

  for (let i = 0; i < undecided.words.length; i++) {
    if (met.words[i] === 0) continue
    // Having no label is a possibility too, and none of those met before agrees with it.
    torn.words[i]! |= undecided.words[i]! & met.words[i]!
    const settled = ~torn.words[i]!
    undecided.words[i]! &= settled
    for (const decided of caught) decided.words[i]! &= settled
  }
  return { length, caught, held: torn, unplaced: undecided }
}

/** The labels still possible for records that met an unknown test: which one, and whether there are several. */
function possibleLabels(length: number) {
  const met = emptyBitmap(length)
  const torn = emptyBitmap(length)
  const first = new Int16Array(length)
  return {
    met,
    torn,
    /** Adds `label` to the possibilities of the records whose bits are set in `bits`, the `word`-th word. */
    add(word: number, bits: number, label: number): void {
      const before = met.words[word]!
      // Written out, without a function for each bit: blanks are many, and this runs while a cut is dragged.
      for (let left = bits & ~before; left !== 0; left &= left - 1) first[word * 32 + 31 - Math.clz32(left & -left)] = label
      for (let left = bits & before & ~torn.words[word]!; left !== 0; left &= left - 1) {
        const lowest = left & -left
        if (first[word * 32 + 31 - Math.clz32(lowest)] !== label) torn.words[word]! |= lowest
      }
      met.words[word] = before | bits
    },
  }
}
