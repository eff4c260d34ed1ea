/** A million records in memory, and gates of twenty rules over them. */
import type { Input, RulesGate } from '@dime-gate/core/gate/document'
import { type Lowered } from '@dime-gate/core/rule/rules'
import { lowered } from '@dime-gate/core/rule/lower'
import { tableDecider } from '@dime-gate/core/bulk/decide-table'
import type { Decisions } from '@dime-gate/core/bulk/decisions'
import { emptyBitmap, fullBitmap, setBit } from '@dime-gate/core/table/bitmap'
import { BLANK_CODE, type DictionaryColumn } from '@dime-gate/core/table/dictionary-column'
import type { NumberColumn } from '@dime-gate/core/table/number-column'
import type { Column, Table } from '@dime-gate/core/table/table'
import { dateOf, parseDate, temporalText } from '@dime-gate/core/value/temporal'
import { valueFromText } from '@dime-gate/core/value/value-text'
import type { ValueKind } from '@dime-gate/core/value/value'

export const MILLION = 1_000_000
export const TODAY = parseDate('2026-03-02')!

/** The same numbers on every run (a linear congruential generator, Numerical Recipes' constants). */
export function chance(seed: number): () => number {
  let state = seed
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32
}

/** Values from 0 to 100 with one decimal, as decay and lean are measured. @param blanks share of records without one */
export function numbers(seed: number, blanks: number): NumberColumn {
  const next = chance(seed)
  const doubles = Float64Array.from({ length: MILLION }, () => Math.floor(next() * 1000) / 10)
  return { kind: 'number', length: MILLION, doubles, valid: someValid(next, blanks), exact: new Map(), unreadable: new Map() }
}

function someValid(next: () => number, blanks: number) {
  if (blanks === 0) return fullBitmap(MILLION)
  const valid = emptyBitmap(MILLION)
  for (let at = 0; at < MILLION; at++) if (next() >= blanks) setBit(valid, at)
  return valid
}

export function repeating(seed: number, type: ValueKind, texts: string[], blanks: number): DictionaryColumn {
  const next = chance(seed)
  const codes = Int32Array.from({ length: MILLION }, () => (next() < blanks ? BLANK_CODE : Math.floor(next() * texts.length)))
  return { kind: 'dictionary', type, length: MILLION, codes, texts, values: texts.map((text) => valueFromText(text, type)), unreadable: new Map() }
}

export const SPECIES = Array.from({ length: 24 }, (_, at) => `Species ${at + 1}`)
/** Ten years of days. */
export const DAYS = Array.from({ length: 3650 }, (_, at) => temporalText({ kind: 'date', day: dateOf(2018, 1, 1)!.day + at }))

export function tableOf(columns: Record<string, Column>): Table {
  return { length: MILLION, columns: new Map(Object.entries(columns)) }
}

export function gateOf(types: Record<string, ValueKind>, conditions: string[]): Lowered {
  return lowered(rulesOf(types, conditions))
}

/** Rules of one label each. */
export function rulesOf(types: Record<string, ValueKind>, conditions: string[]): RulesGate {
  const inputs = Object.entries(types).map(([name, type]): Input => ({
    name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: null,
  }))
  return {
    schema: 1, form: 'rules', name: 'Million', inputs, hitPolicy: 'first', otherwise: [{ is: 'rest' }], outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    rules: conditions.map((condition, rule) => ({ condition, entries: [{ is: `label ${rule}` }], note: '' })),
  }
}

export const FOUR: Record<string, ValueKind> = { A: 'number', B: 'number', C: 'number', D: 'number' }
export const PAIRS: readonly (readonly [string, string])[] = [['A', 'B'], ['C', 'D'], ['B', 'C'], ['D', 'A']]

/** Two tests of two columns, for each of twenty rules; none takes so much that little is left for the rest. */
export function twentyRules(moved = 0): string[] {
  return Array.from({ length: 20 }, (_, rule) => {
    const [low, high] = PAIRS[rule % 4]!
    return `${low} >= ${(97 - rule * 1.7 - (rule === 9 ? moved : 0)).toFixed(1)} and ${high} < ${(30 + rule * 2.3).toFixed(1)}`
  })
}

export const fourColumns = (blanks: number) => tableOf(Object.fromEntries(Object.keys(FOUR).map((name, at) => [name, numbers(at + 1, blanks)])))

export function countsOf({ counts }: Decisions): number[] {
  return [...counts.caught, counts.otherwise, counts.unplaced, counts.held]
}

/** Decides from scratch and counts. */
export function decided(table: Table, gate: Lowered): number[] {
  return countsOf(tableDecider(table, TODAY).decide(gate))
}
