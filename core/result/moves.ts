/** Which records two results give different labels: of two states of a gate, or of two gates. */
import { type Bitmap, emptyBitmap, placesOf, setBit } from '../table/bitmap'
import { labelOfOtherwise } from './tray'
import type { Result } from './result'

/** Where a record ends: at a label, or without one. */
export type Landing = { kind: 'label'; label: string } | { kind: 'unplaced' | 'held' | 'contested' }

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

/** @param before of the same records as `after`, in the same order */
export function movesBetween(before: Result, after: Result): Moves {
  const [was, is] = [landed(before), landed(after)]
  const length = was.codes.length
  const counts = new Map<number, number>()
  let stayed = 0
  for (let at = 0; at < length; at++) {
    const [from, to] = [was.codes[at]!, is.codes[at]!]
    if (landingName(was.landings[from]!) === landingName(is.landings[to]!)) stayed++
    else counts.set(from * is.landings.length + to, (counts.get(from * is.landings.length + to) ?? 0) + 1)
  }
  const moves = [...counts].map(([pair, records]): Move => ({
    from: was.landings[Math.floor(pair / is.landings.length)]!,
    to: is.landings[pair % is.landings.length]!,
    records,
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

/** By record the place of its landing. */
function landed({ trays, decisions, ready, on: { table } }: Result): { landings: Landing[]; codes: Uint16Array } {
  const codes = new Uint16Array(table.length)
  const landings: Landing[] = []
  const codeOf = (landing: Landing): number => {
    const known = landings.findIndex((one) => landingName(one) === landingName(landing))
    return known === -1 ? landings.push(landing) - 1 : known
  }
  const land = (landing: Landing, places: Bitmap) => {
    const code = codeOf(landing)
    for (const at of placesOf(places)) codes[at] = code
  }
  for (const { label, rules } of trays) for (const rule of rules) land({ kind: 'label', label }, decisions.caught[rule]!)
  const rest = labelOfOtherwise(ready)
  if (rest !== null) land({ kind: 'label', label: rest }, decisions.otherwise)
  for (const kind of ['unplaced', 'held', 'contested'] as const) land({ kind }, decisions[kind])
  return { landings, codes }
}
