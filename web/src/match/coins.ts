/** Values as coins: those that are sorted into trays, and those that wait on the rail. */
import type { MatchGate } from '@dime-gate/core/gate/document'
import { keyOf } from '@dime-gate/core/gate/edit-match'
import { folded } from '@dime-gate/core/gate/form'
import { nearestOf } from '@dime-gate/core/gate/near-values'
import type { CommonValues } from '@dime-gate/core/table/common-values'

export interface Coin {
  /** As the gate writes it where it is sorted, and otherwise as most records have it. */
  value: string
  records: number
  /** Other spellings that the list takes for the same. */
  others: string[]
}

/** A sorted value that another one looks like, and its tray. */
export interface Near {
  value: string
  tray: number
  differs: 'case or spaces' | 'a letter'
}

export interface Sorted {
  /** The commonest first. */
  rail: Coin[]
  /** By tray. */
  trays: Coin[][]
  /** The coin of a value, where it lies. */
  coinOf(value: string): Coin | undefined
}

type Counted = CommonValues['values']

/**
 * Sorts the values of a table as a list does. A coin about which nothing changes stays the very object that it was: what shows it has nothing to do.
 * @param values of the table, the commonest first
 */
export function coinSorter(gate: Pick<MatchGate, 'folds'>, values: Counted): (lines: MatchGate['lines']) => Sorted {
  const all = joinedCoins(gate, values)
  const byKey = new Map(all.map((coin) => [keyOf(gate, coin.value), coin]))
  /** Sorted coins, by the value that the gate writes. */
  const written = new Map<string, Coin>()
  const inTray = (value: string): Coin => {
    const of = byKey.get(keyOf(gate, value))
    if (of?.value === value) return of
    const known = written.get(value) ?? { value, records: of?.records ?? 0, others: of ? [of.value, ...of.others].filter((text) => text !== value) : [] }
    written.set(value, known)
    return known
  }
  return (lines) => {
    const sorted = new Set<Coin | undefined>()
    const byValue = new Map<string, Coin>()
    const trays = lines.map((line) => line.values.map((value) => {
      const coin = inTray(value)
      byValue.set(value, coin)
      sorted.add(byKey.get(keyOf(gate, value)))
      return coin
    }).sort(byRecords))
    const onRail = (value: string) => {
      const coin = byKey.get(keyOf(gate, value))
      return coin?.value === value && !sorted.has(coin) ? coin : undefined
    }
    return { rail: all.filter((coin) => !sorted.has(coin)), trays, coinOf: (value) => byValue.get(value) ?? onRail(value) }
  }
}

/** Each value once, the commonest first: spellings that the list takes for the same are one, as most records have it. */
function joinedCoins(gate: Pick<MatchGate, 'folds'>, values: Counted): Coin[] {
  const found = new Map<string, Coin>()
  for (const { text, records } of values) {
    const key = keyOf(gate, text)
    const known = found.get(key)
    if (known) {
      known.records += records
      known.others.push(text)
    } else found.set(key, { value: text, records, others: [] })
  }
  return [...found.values()].sort(byRecords)
}

/** By value on the rail, the sorted value that it looks like. Of many values this takes a moment. */
export function nearSorted({ lines }: Pick<MatchGate, 'lines'>, rail: readonly Coin[]): Map<string, Near> {
  const places = new Map(lines.flatMap((line, tray) => line.values.map((value): [string, number] => [value, tray])))
  const nearest = nearestOf([...places.keys()])
  return new Map(rail.flatMap(({ value }): [string, Near][] => {
    const near = nearest(value)
    return near === null ? [] : [[value, { value: near, tray: places.get(near)!, differs: folded(near) === folded(value) ? 'case or spaces' : 'a letter' }]]
  }))
}

const byRecords = (a: Coin, b: Coin) => b.records - a.records || (a.value < b.value ? -1 : 1)

export type CoinOrder = 'records' | 'name'

/** Those whose value holds `text`, or with `^` before it begins with it, whatever its case. @param among only these, where some are said */
export function foundCoins(coins: readonly Coin[], text: string, among: ReadonlyMap<string, unknown> | null, order: CoinOrder): readonly Coin[] {
  const isAtStart = text.startsWith('^')
  const wanted = folded(isAtStart ? text.slice(1) : text)
  if (wanted === '' && among === null) return inOrder(coins, order)
  const fits = ({ value }: Coin) => (among === null || among.has(value)) && (isAtStart ? folded(value).startsWith(wanted) : folded(value).includes(wanted))
  return inOrder(coins.filter(fits), order)
}

function inOrder(coins: readonly Coin[], order: CoinOrder): readonly Coin[] {
  return order === 'records' ? coins : coins.toSorted((a, b) => names.compare(a.value, b.value))
}

const names = new Intl.Collator(undefined, { numeric: true })

export function recordsOf(coins: readonly Coin[]): number {
  return coins.reduce((sum, { records }) => sum + records, 0)
}

/** Spaces that nobody would see: before and after, and more than one. */
export function withSpacesShown(value: string): string {
  return value.replace(/^\s+|\s+$|\s{2,}/g, (spaces) => '␣'.repeat(spaces.length))
}
