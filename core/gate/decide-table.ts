/** Every record of a table decided at once, over bitmaps; equal, record for record, to `decideRecord`. */
import { type Bitmap, eachBit, eachBitOfWord, emptyBitmap, fullBitmap, setBit } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'
import { intervalPlaces } from './interval-places'
import { intervalText } from './interval'
import { HELD, LABELLED, type LabelRules, NONE, UNPLACED } from './rules'

export interface Decisions {
  readonly length: number
  /** By record, a place in `STATUSES`. */
  readonly status: Uint8Array
  /** By record, the deciding rule or NONE. */
  readonly rule: Int16Array
  /** By record, a place in the rules' `labels`, or NONE. */
  readonly label: Int16Array
}

/**
 * A decider for one column. It keeps the places of each test from one call to the next, so that
 * moving one cut tests anew only the two bands beside it.
 */
export function tableDecider(column: NumberColumn): (rules: LabelRules) => Decisions {
  let tested = new Map<string, Bitmap>()

  return (rules) => {
    const kept = new Map<string, Bitmap>()
    for (const { test } of rules.rules) {
      const text = intervalText(test)
      kept.set(text, tested.get(text) ?? intervalPlaces(column, test))
    }
    tested = kept
    return walk(column, rules, rules.rules.map(({ test }) => kept.get(intervalText(test))!))
  }
}

function walk(column: NumberColumn, { rules }: LabelRules, places: Bitmap[]): Decisions {
  const { length, valid } = column
  const status = new Uint8Array(length).fill(UNPLACED)
  const rule = new Int16Array(length).fill(NONE)
  const label = new Int16Array(length).fill(NONE)
  const undecided = fullBitmap(length)
  const possible = new Map<number, number>()
  const torn = emptyBitmap(length)
  const mayBe = (at: number, outcome: number) => {
    const before = possible.get(at)
    if (before === undefined) possible.set(at, outcome)
    else if (before !== outcome) setBit(torn, at)
  }

  rules.forEach(({ test, label: outcome }, index) => {
    const { words } = places[index]!
    const certain = !test.low && !test.high
    for (let i = 0; i < words.length; i++) {
      const open = undecided.words[i]!
      if (open === 0) continue
      if (!certain) {
        // Blank and unreadable values make the test unknown: its label stays possible.
        eachBitOfWord(open & ~valid.words[i]!, i, (at) => mayBe(at, outcome))
      }
      const caught = open & words[i]!
      undecided.words[i] = open & ~caught
      eachBitOfWord(caught, i, (at) => {
        status[at] = LABELLED
        rule[at] = index
        label[at] = outcome
      })
    }
  })

  for (const [at, outcome] of possible) {
    if (outcome !== label[at]) setBit(torn, at)
  }
  eachBit(torn, (at) => {
    status[at] = HELD
    rule[at] = NONE
    label[at] = NONE
  })
  return { length, status, rule, label }
}
