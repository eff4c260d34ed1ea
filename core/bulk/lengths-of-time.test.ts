/** Ages and terms over whole columns, held to what is decided of each record by itself. */
import fc from 'fast-check'
import { decideRecord } from '../decide/decide-record'
import type { Input } from '../gate/document'
import { lowered } from '../rule/lower'
import { dictionaryColumn } from '../table/dictionary-column'
import { recordAt, type Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { temporalText } from '../value/temporal'
import { tableDecider } from './decide-table'
import { inputColumns } from './input-columns'

const given = [anInput('Planted', 'date'), anInput('Seen', 'date')]
const standing = (blank: Input['blank']): Input => ({ ...anInput('Standing', 'years and months duration', { blank }), source: { kind: 'figure', feel: 'years and months duration(Planted, Seen)' } })
// Month ends and leap days lie close to each other.
const day = fc.oneof({ weight: 8, arbitrary: fc.integer({ min: 10_000, max: 20_800 }) }, fc.constantFrom(11_016, 11_017, 19_782, 19_783, 20_148), fc.constant(null)).map((one) => (one === null ? null : temporalText({ kind: 'date', day: one })))
const records = fc.array(fc.tuple(day, day), { minLength: 1, maxLength: 30 })
const months = fc.integer({ min: -40, max: 300 })
const length = months.map((count) => `@"${count < 0 ? '-' : ''}P${Math.abs(count)}M"`)
const test_ = fc.oneof(
  fc.tuple(fc.constantFrom('<', '<=', '>', '>=', '=', '!='), length).map(([operator, than]) => `Standing ${operator} ${than}`),
  fc.tuple(length, length).map(([from, to]) => `Standing in [${from}..${to})`),
  fc.tuple(length, length).map(([by, than]) => `Standing + ${by} > ${than}`),
  fc.tuple(fc.integer({ min: -3, max: 20 })).map(([years]) => `Standing.years >= ${years}`),
  fc.tuple(fc.integer({ min: -11, max: 11 })).map(([rest]) => `Standing.months < ${rest}`),
  length.map((than) => `years and months duration(Seen, today()) >= ${than}`),
  length.map((than) => `abs(Standing) < ${than}`),
)

test('a table is decided by lengths of years and months as each of its records is', () => {
  fc.assert(fc.property(records, fc.array(test_, { minLength: 1, maxLength: 4 }), fc.constantFrom('hold', 'pass' as const), (rows, tests, blank) => {
    const table: Table = { length: rows.length, columns: new Map([['Planted', dictionaryColumn('date', rows.map(([one]) => one))], ['Seen', dictionaryColumn('date', rows.map(([, other]) => other))]]) }
    const gate = lowered(rulesGate([...given, standing(blank)], tests.map((condition, at) => [condition, `label ${at % 2}`])))
    const decided = tableDecider(table, TODAY).decide(gate)
    const told = rows.map((_, at) => { const { status, rule } = decided.at(at); return `${status} ${rule}` })
    expect(told).toEqual(rows.map((_, at) => { const { status, rule } = decideRecord(gate, recordAt(table, at), TODAY); return `${status} ${rule}` }))
  }), { numRuns: 400 })
})

test('they are had as months, record by record', () => {
  const rows: [string | null, string][] = [['2000-01-31', '2000-02-29'], ['2000-02-29', '2001-02-28'], ['2000-02-29', '2001-03-01'], ['2010-05-05', '2000-05-05'], [null, '2001-01-01']]
  const table: Table = { length: rows.length, columns: new Map([['Planted', dictionaryColumn('date', rows.map(([one]) => one))], ['Seen', dictionaryColumn('date', rows.map(([, other]) => other))]]) }
  const vector = inputColumns(table, lowered(rulesGate([...given, standing('hold')], [['Standing > @"P1Y"', 'old']])), TODAY).input('Standing')!
  expect([vector.kind, [...vector.doubles.slice(0, 4)]]).toEqual(['years and months duration', [0, 11, 12, -120]])
  expect(vector.valid.words[0]).toBe(0b01111)
})
