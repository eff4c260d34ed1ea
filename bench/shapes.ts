import type { ValueKind } from '@dime-gate/core/value/value'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { tableDecider } from '@dime-gate/core/bulk/decide-table'
import { dictionaryColumn } from '@dime-gate/core/table/dictionary-column'
import type { Table } from '@dime-gate/core/table/table'
import { type Figure, median } from './figure'
import { countsOf, DAYS, FOUR, fourColumns, MILLION, numbers, repeating, rulesOf, tableOf, TODAY, twentyRules } from './million'

const BLANKS = 0.05
const ROUNDS = 3
const WANTED = 1
const LEAST = 0.3

interface Shape {
  name: string
  table(): Table
  gate: Lowered
}

const twenty = (condition: (rule: number) => string) => Array.from({ length: 20 }, (_, rule) => condition(rule))
const cut = (rule: number) => (90 - rule * 4).toFixed(1)
const columns = (names: string[]) => Object.fromEntries(names.map((name, at) => [name, numbers(at + 1, BLANKS)]))
const SIX = ['A', 'B', 'C', 'D', 'E', 'F']
const six: Record<string, ValueKind> = Object.fromEntries(SIX.map((name) => [name, 'number']))
const gate = (types: Record<string, ValueKind>, conditions: string[], change: Partial<RulesGate> = {}, sets: string[] = []) => {
  const document = rulesOf(types, conditions)
  return lowered({ ...document, inputs: document.inputs.map((input) => (sets.includes(input.name) ? { ...input, isSet: true } : input)), ...change })
}
const set = () => ({ length: MILLION, columns: new Map([['M', SIX.map((_, at) => numbers(at + 1, BLANKS))]]) })
const ofSet = (condition: (rule: number) => string) => gate({ M: 'number' }, twenty(condition), {}, ['M'])
const dates = () => tableOf({ D: repeating(1, 'date', DAYS, BLANKS), E: repeating(2, 'date', DAYS, BLANKS) })
const points = { otherwise: [{ is: '0' }], outcomes: [{ name: 'Points', type: 'number' as const, labels: [] }] }
const pointsOf = (rules: RulesGate['rules']) => rules.map((rule, at) => ({ ...rule, entries: [{ is: String(at) }] }))
const FOUR_RULES = rulesOf(FOUR, twentyRules())

const SHAPES: Shape[] = [
  { name: 'mean of six columns written out', table: () => tableOf(columns(SIX)), gate: gate(six, twenty((rule) => `mean([${SIX.join(', ')}]) >= ${cut(rule)}`)) },
  { name: 'mean of six as a figure', table: () => tableOf(columns(SIX)), gate: lowered({ ...rulesOf({ ...six, Mean: 'number' }, twenty((rule) => `Mean >= ${cut(rule)}`)), inputs: rulesOf({ ...six, Mean: 'number' }, []).inputs.map((input) => (input.name === 'Mean' ? { ...input, source: { kind: 'figure', feel: `mean([${SIX.join(', ')}])` } } : input)) }) },
  { name: 'two columns the same', table: () => tableOf(columns(SIX)), gate: gate(six, SIX.flatMap((a, at) => SIX.slice(at + 1).map((b) => `${a} = ${b}`)).slice(0, 4)) },
  { name: 'median', table: set, gate: ofSet((rule) => `median(M) >= ${cut(rule)}`) },
  { name: 'some', table: set, gate: ofSet((rule) => `some m in M satisfies m < ${(1 + rule / 2).toFixed(1)}`) },
  { name: 'count with a condition', table: set, gate: ofSet((rule) => `count(M[item >= ${cut(rule)}]) >= 3`) },
  { name: 'sum over count', table: set, gate: ofSet((rule) => `sum(M) / count(M) >= ${cut(rule)}`) },
  { name: 'collect', table: () => fourColumns(BLANKS), gate: gate(FOUR, twentyRules(), { hitPolicy: 'collect' }) },
  { name: 'collect sum', table: () => fourColumns(BLANKS), gate: lowered({ ...FOUR_RULES, ...points, hitPolicy: 'collect sum', rules: pointsOf(FOUR_RULES.rules) }) },
  { name: 'priority', table: () => fourColumns(BLANKS), gate: gate(FOUR, twentyRules(), { hitPolicy: 'priority' }) },
  { name: 'days moved and compared', table: dates, gate: gate({ D: 'date', E: 'date' }, twenty((rule) => `D + @"P${rule * 90 + 1}D" < E`)) },
  { name: 'beginnings of texts that all differ', table: () => ({ length: MILLION, columns: new Map([['T', dictionaryColumn('text', Array.from({ length: MILLION }, (_, at) => (at % 20 === 0 ? null : `${String((at * 7919) % MILLION).padStart(7, '0')} ${at}`)))]]) }), gate: gate({ T: 'text' }, twenty((rule) => `starts with(T, "${String(rule * 5).padStart(3, '0')}")`)) },
]

/** Kinds of tests that are slow where nobody thought of them: each by itself, from scratch. */
export const shapes: Figure = {
  name: `tests and policies of many shapes, ${BLANKS * 100} % blanks, 20 rules (4 for columns the same) over 1,000,000 records: records a second`,
  reach: `at least ${WANTED} million each, none below ${LEAST}`,
  async measure() {
    const speeds = SHAPES.map(({ name, table, gate }) => {
      const records = table()
      const times = Array.from({ length: ROUNDS }, () => {
        const start = performance.now()
        countsOf(tableDecider(records, TODAY).decide(gate))
        return performance.now() - start
      })
      return { name, speed: MILLION / 1e3 / median(times) }
    })
    const told = speeds.map(({ name, speed }) => `${name} ${speed.toFixed(1)} M`).join(', ')
    return { measured: told, ok: speeds.every(({ speed }) => speed >= WANTED) }
  },
}
