/** Records in the order in which they are listed. */
import { BLANK_CODE, type DictionaryColumn } from '@dime-gate/core/table/dictionary-column'
import { decimalAt, type NumberColumn } from '@dime-gate/core/table/number-column'
import { sortedPlaces } from '@dime-gate/core/table/sorted-places'
import type { Column } from '@dime-gate/core/table/table'
import { compareValues } from '@dime-gate/core/value/compare'

/** By the values of a column, or as the records stand in the table. */
export type Order = null | { column: number; direction: 'rising' | 'falling' }

/**
 * Records without a value come last either way, those of one value as they stand in the table.
 * @param all places, ascending
 */
export function inOrder(all: Uint32Array, direction: 'rising' | 'falling', column: Column): Uint32Array {
  const { ranks, highest } = ranksOf(column)
  const last = highest + 1
  const key = (at: number) => (ranks[at] === 0 ? last : direction === 'rising' ? ranks[at]! : last - ranks[at]!)
  const starts = new Uint32Array(last + 2)
  for (const at of all) starts[key(at) + 1]!++
  for (let rank = 0; rank <= last; rank++) starts[rank + 1]! += starts[rank]!
  const listed = new Uint32Array(all.length)
  for (const at of all) listed[starts[key(at)]!++] = at
  return listed
}

interface Ranks {
  /** By record from 1 on, the same for the same value; 0 where there is none. */
  ranks: Uint32Array
  highest: number
}

const known = new WeakMap<Column, Ranks>()

function ranksOf(column: Column): Ranks {
  const ranks = known.get(column) ?? (column.kind === 'number' ? numberRanks(column) : valueRanks(column))
  known.set(column, ranks)
  return ranks
}

/** Two numbers that share a double are told apart by their decimals. */
function numberRanks(column: NumberColumn): Ranks {
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

const words = new Intl.Collator(undefined, { numeric: true })

function valueRanks({ codes, texts, values, type }: DictionaryColumn): Ranks {
  const order = texts.map((_, code) => code).sort((a, b) => (type === 'text' ? words.compare(texts[a]!, texts[b]!) : compareValues(values[a]!, values[b]!)) || a - b)
  const byCode = new Uint32Array(texts.length)
  order.forEach((code, at) => (byCode[code] = at + 1))
  return { ranks: Uint32Array.from(codes, (code) => (code === BLANK_CODE ? 0 : byCode[code]!)), highest: texts.length }
}
