/** Records in the order in which they are listed. */
import { compareValues } from '../value/compare'
import { hasBit } from './bitmap'
import { BLANK_CODE, type DictionaryColumn } from './dictionary-column'
import { decimalAt, type NumberColumn } from './number-column'
import { sortedPlaces } from './sorted-places'
import { type Steps, stepsOf } from './steps'
import type { Column } from './table'

export type Direction = 'rising' | 'falling'

/**
 * Those of one value stay in the order in which they come, so that several columns are gone through from the last to the first.
 * Either way what cannot be read comes behind the values, by its text, and blanks come last.
 * @param all places in a column
 */
export function inOrder(all: Uint32Array, direction: Direction, column: Column): Uint32Array {
  const { ranks, highest, beyond } = ranksOf(column)
  const isFalling = direction === 'falling'
  const key = (at: number) => {
    const rank = ranks[at]!
    if (rank === 0) return beyond + 1
    return isFalling && rank <= highest ? highest + 1 - rank : rank
  }
  const starts = new Uint32Array(beyond + 3)
  for (const at of all) starts[key(at) + 1]!++
  for (let rank = 0; rank <= beyond + 1; rank++) starts[rank + 1]! += starts[rank]!
  const listed = new Uint32Array(all.length)
  for (const at of all) listed[starts[key(at)]!++] = at
  return listed
}

interface Ranks {
  /** By record from 1 on, the same for the same value; those that cannot be read behind all values; 0 for a blank. */
  ranks: Uint32Array
  /** The last rank of a value. */
  highest: number
  /** The last rank of all. */
  beyond: number
}

const known = new WeakMap<Column, Ranks>()

function ranksOf(column: Column): Ranks {
  const ranks = known.get(column) ?? withUnreadable(column, column.kind === 'number' ? numberRanks(column) : valueRanks(column))
  known.set(column, ranks)
  return ranks
}

function withUnreadable({ unreadable }: Column, { ranks, highest }: Omit<Ranks, 'beyond'>): Ranks {
  const texts = [...new Set(unreadable.values())].sort(words.compare)
  const rankOf = new Map(texts.map((text, at) => [text, highest + 1 + at]))
  for (const [at, text] of unreadable) ranks[at] = rankOf.get(text)!
  return { ranks, highest, beyond: highest + texts.length }
}

function numberRanks(column: NumberColumn): Omit<Ranks, 'beyond'> {
  const steps = stepsOf(column)
  return steps ? ranksByStep(column, steps) : ranksByValue(column)
}

function ranksByStep({ valid, length }: NumberColumn, { above, count }: Steps): Omit<Ranks, 'beyond'> {
  const rankOf = new Uint32Array(count)
  for (let at = 0; at < length; at++) if (hasBit(valid, at)) rankOf[above[at]!] = 1
  let highest = 0
  for (let step = 0; step < count; step++) if (rankOf[step] === 1) rankOf[step] = ++highest
  const ranks = new Uint32Array(length)
  for (let at = 0; at < length; at++) if (hasBit(valid, at)) ranks[at] = rankOf[above[at]!]!
  return { ranks, highest }
}

/** Two numbers that share a double are told apart by their decimals. */
function ranksByValue(column: NumberColumn): Omit<Ranks, 'beyond'> {
  const { doubles, exact, length } = column
  const ranks = new Uint32Array(length)
  const exactly = (at: number) => (exact.size > 0 && exact.has(at) ? decimalAt(column, at) : null)
  let [highest, before] = [0, -1]
  for (const at of sortedPlaces(column)) {
    if (before < 0 || doubles[at] !== doubles[before] || exactly(at) !== exactly(before)) highest++
    ranks[at] = highest
    before = at
  }
  return { ranks, highest }
}

/** As people sort texts, whatever their language: T 9 before T 10. Source: Unicode Technical Standard #10, root collation. */
export const words = new Intl.Collator('und', { numeric: true })

function valueRanks({ codes, texts, values, type }: DictionaryColumn): Omit<Ranks, 'beyond'> {
  const compare = (a: number, b: number) =>
    (type === 'text' ? words.compare(texts[a]!, texts[b]!) : compareValues(values[a]!, values[b]!)) || a - b
  const order = texts.map((_, code) => code).sort(compare)
  const byCode = new Uint32Array(texts.length)
  order.forEach((code, at) => (byCode[code] = at + 1))
  return { ranks: Uint32Array.from(codes, (code) => (code === BLANK_CODE ? 0 : byCode[code]!)), highest: texts.length }
}
