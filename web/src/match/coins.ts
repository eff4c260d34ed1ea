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
}

type Counted = CommonValues['values']

/** @param values of the table, the commonest first */
export function coinsOf(gate: Pick<MatchGate, 'folds' | 'lines'>, values: Counted): Sorted {
  const found = new Map<string, { value: string; records: number; others: string[] }>()
  for (const { text, records } of values) {
    const key = keyOf(gate, text)
    const known = found.get(key)
    if (known) {
      known.records += records
      known.others.push(text)
    } else found.set(key, { value: text, records, others: [] })
  }
  const trays = gate.lines.map((line) => line.values.map((value): Coin => {
    const of = found.get(keyOf(gate, value))
    found.delete(keyOf(gate, value))
    const others = of ? [of.value, ...of.others].filter((text) => text !== value) : []
    return { value, records: of?.records ?? 0, others }
  }).sort(byRecords))
  return { rail: [...found.values()].sort(byRecords), trays }
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
export function foundCoins(coins: readonly Coin[], text: string, among: ReadonlyMap<string, unknown> | null, order: CoinOrder): Coin[] {
  const isAtStart = text.startsWith('^')
  const wanted = folded(isAtStart ? text.slice(1) : text)
  const fits = ({ value }: Coin) => (among === null || among.has(value)) && (isAtStart ? folded(value).startsWith(wanted) : folded(value).includes(wanted))
  const found = coins.filter(fits)
  return order === 'records' ? found : found.toSorted((a, b) => names.compare(a.value, b.value))
}

const names = new Intl.Collator(undefined, { numeric: true })

export function recordsOf(coins: readonly Coin[]): number {
  return coins.reduce((sum, { records }) => sum + records, 0)
}

/** Spaces that nobody would see: before and after, and more than one. */
export function withSpacesShown(value: string): string {
  return value.replace(/^\s+|\s+$|\s{2,}/g, (spaces) => '␣'.repeat(spaces.length))
}
