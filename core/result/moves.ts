/** Which records are given different labels: by two states of a gate, by two gates, or by a gate and by hand. */
import { AFTER_RULES } from '../bulk/decisions'
import { isWrittenAlike } from '../gate/near-values'
import { type Bitmap, emptyBitmap, setBit } from '../table/bitmap'
import { type Column, valueTextAt } from '../table/table'
import { labelOfOtherwise } from './tray'
import type { Result } from './result'

/** Where a record ends: at a label, or without one; blank where nobody entered any. */
export type Landing = { kind: 'label'; label: string } | { kind: 'unplaced' | 'held' | 'contested' | 'blank' }

/** By record the place of its landing. */
export interface Landed {
  landings: Landing[]
  codes: Uint32Array
}

export interface Move {
  from: Landing
  to: Landing
  records: number
}

export interface Moves {
  /** From each landing to each other one, the most first. */
  moves: Move[]
  /** Records that end where they ended before. */
  stayed: number
  /** The records of one move. */
  places(from: Landing, to: Landing): Bitmap
}

export function landingName(landing: Landing): string {
  return landing.kind === 'label' ? `label ${landing.label}` : landing.kind
}

/** Whether the two are one label, written in two ways: by case, by spaces, or by the signs between words. */
export function isOnlyWriting({ from, to }: Pick<Move, 'from' | 'to'>): boolean {
  return from.kind === 'label' && to.kind === 'label' && from.label !== to.label && isWrittenAlike(from.label, to.label)
}

/** @param before of the same records as `after`, in the same order */
export function movesBetween(before: Result, after: Result): Moves {
  return movesOf(landedIn(before), landedIn(after))
}

/** @param was of the same records as `is`, in the same order */
export function movesOf(was: Landed, is: Landed): Moves {
  const { length } = was.codes
  const width = is.landings.length
  const counts = new Float64Array(was.landings.length * width)
  for (let at = 0; at < length; at++) counts[was.codes[at]! * width + is.codes[at]!]!++
  const names = is.landings.map(landingName)
  const moves: Move[] = []
  let stayed = 0
  was.landings.forEach((from, row) => is.landings.forEach((to, column) => {
    const records = counts[row * width + column]!
    if (names[column] === landingName(from)) stayed += records
    else if (records > 0) moves.push({ from, to, records })
  }))
  return {
    moves: moves.toSorted((a, b) => b.records - a.records),
    stayed,
    places(from, to) {
      const [first, second] = [
        was.landings.findIndex((one) => landingName(one) === landingName(from)),
        is.landings.findIndex((one) => landingName(one) === landingName(to)),
      ]
      const found = emptyBitmap(length)
      for (let at = 0; at < length; at++) if (was.codes[at] === first && is.codes[at] === second) setBit(found, at)
      return found
    },
  }
}

export function landedIn({ trays, decisions, ready, on: { table } }: Result): Landed {
  const landings: Landing[] = []
  const placeOf = (landing: Landing): number => {
    const known = landings.findIndex((one) => landingName(one) === landingName(landing))
    return known === -1 ? landings.push(landing) - 1 : known
  }
  const rules = ready.lowered.rules.length
  const rest = labelOfOtherwise(ready)
  // By code of a decision the place of its landing; of what nothing has, that does not matter.
  const landed = new Uint32Array(rules + AFTER_RULES.length)
  for (const { label, rules: own } of trays) for (const rule of own) landed[rule] = placeOf({ kind: 'label', label })
  AFTER_RULES.forEach((kind, at) => {
    if (kind !== 'otherwise') landed[rules + at] = placeOf({ kind })
    else if (rest !== null) landed[rules + at] = placeOf({ kind: 'label', label: rest })
  })
  const codes = new Uint32Array(table.length)
  for (let at = 0; at < codes.length; at++) codes[at] = landed[decisions.codeAt(at)]!
  return { landings, codes }
}

/** More different labels than anybody enters by hand. */
const MOST_LABELS = 2000

/** Labels that were entered by hand; a text that could not be read counts as it was written. @returns null where there are too many to be labels */
export function landedBy(column: Column): Landed | null {
  const codes = new Uint32Array(column.length)
  const landings: Landing[] = [{ kind: 'blank' }]
  const places = new Map<string, number>()
  for (let at = 0; at < column.length; at++) {
    const text = valueTextAt(column, at) ?? column.unreadable.get(at) ?? null
    if (text === null) continue
    const known = places.get(text)
    if (known !== undefined) codes[at] = known
    else {
      if (landings.length > MOST_LABELS) return null
      places.set(text, (codes[at] = landings.push({ kind: 'label', label: text }) - 1))
    }
  }
  return { landings, codes }
}
