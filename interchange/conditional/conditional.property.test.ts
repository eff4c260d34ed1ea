import fc from 'fast-check'
import { answersOf, decideByTests, decideRecord } from '@dime-gate/core/decide/decide-record'
import { factsOf } from '@dime-gate/core/decide/facts'
import type { Gate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { formGates, rulesGates, tables, TODAY } from '@dime-gate/core/testing/arbitrary-gate'
import { recordAt, type Table } from '@dime-gate/core/table/table'
import type { Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { GateError } from '../gate-error'
import { gateToFormula } from '../openformula/gate-to-formula'
import { gateToSql } from '../sql/gate-to-sql'
import { type ConditionalLanguage, CONDITIONAL_LANGUAGES, readConditional } from './gate-from-conditional'

const first = rulesGates(fc.constant('first'))
const library = (gate: Gate) => ({ conditions: [], gates: [gate] })
const label = (value: Value) => (value === null ? '' : textOfValue(value))

/** @returns false where the gate says more than the language can */
function agrees(gate: Gate, table: Table, language: ConditionalLanguage, write: () => string): boolean {
  let text: string
  try {
    text = write()
  } catch (error) {
    if (error instanceof GateError) return false
    throw error
  }
  const read = readConditional(text, language, gate.name, TODAY)
  if ('problem' in read) {
    // A gate that gives nothing is no conditional; what gathers the members of a set is a query of its own.
    if (/“SELECT” stands|No branch gives anything|too intricate|nested more than|characters long/.test(read.problem.message)) return false
    throw new Error(`${read.problem.message} at ${read.problem.from}: ${text}`)
  }
  const [before, after] = [lowered(gate), lowered(read.gate)]
  for (let at = 0; at < Math.min(table.length, 25); at++) {
    const given = recordAt(table, at)
    const [a, b] = [decideRecord(before, given, TODAY), decideRecord(after, given, TODAY)]
    // Other languages weigh blanks test by test, and so hold some records that the core need not.
    if (label(b.outcomes[0] ?? null) === '' && a.status !== 'held' && decideByTests(before, answersOf(before, factsOf(before, given, TODAY))).found === null) continue
    expect({ text, record: at, label: label(b.outcomes[0] ?? null) }).toEqual({ text, record: at, label: label(a.outcomes[0] ?? null) })
  }
  return true
}

/** Empty texts are as good as blanks in a formula, and files have none. */
const filled = (table: Table): Table => {
  const species = table.columns.get('Species')
  return species && 'texts' in species && species.texts.includes('') ? { ...table, columns: new Map([...table.columns, ['Species', { ...species, texts: species.texts.map((text) => text || 'yew'), values: species.texts.map((text) => text || 'yew') }]]) } : table
}

jest.setTimeout(120_000)

describe('written and read again, it gives every record the same label', () => {
  let seen = 0
  beforeEach(() => {
    seen = 0
  })

  test.each([['rules', first], ['other forms', formGates]] as const)('as SQL: %s', (_, gates) => {
    fc.assert(fc.property(gates as fc.Arbitrary<Gate>, tables, (gate, table) => {
      if (agrees(gate, table, 'sql', () => gateToSql(library(gate), gate.name, undefined, { today: TODAY }))) seen++
    }), { numRuns: 40 })
    expect(seen).toBeGreaterThan(10)
  })

  test.each([['rules', first], ['other forms', formGates]] as const)('as OpenFormula: %s', (_, gates) => {
    fc.assert(fc.property(gates as fc.Arbitrary<Gate>, tables, (gate, table) => {
      if (agrees(gate, filled(table), 'openformula', () => gateToFormula(library(gate), gate.name, undefined, TODAY))) seen++
    }), { numRuns: 40 })
    expect(seen).toBeGreaterThan(10)
  })
})

describe('whatever is read, something is told', () => {
  const pieces = fc.constantFrom('IF(', 'CASE ', 'WHEN ', ' THEN ', ' ELSE ', ' END', 'if ', ' then ', ' else ', ')', '(', ';', ',', '"a"', "'a'", 'Decay', '"Decay"', '$$\'x y\'', '[.A1]', ' > ', ' = ', '<>', '12', '0.5', ' AND ', 'OR(', 'NOT(', ' IS NULL', ' IS NOT FALSE', ' BETWEEN ', ' IN (', 'null', '%', '-', '+', '/', '*', '^', '::', '--', '/*', 'CHOOSE(', 'IFERROR(', 'COALESCE(', 'NULLIF(', 'CAST(', ' AS numeric', 'EXACT(', 'é', '\0', '𝛼', '\n')
  const texts = fc.oneof(fc.array(pieces, { maxLength: 40 }).map((parts) => parts.join('')), fc.string({ maxLength: 60, unit: 'binary' }))

  test.each(CONDITIONAL_LANGUAGES)('%s', (language) => {
    fc.assert(fc.property(texts, (text) => {
      const read = readConditional(text, language, 'Fuzzed', TODAY)
      if ('problem' in read) {
        expect(read.problem.message).not.toBe('')
        expect(read.problem.from).toBeLessThanOrEqual(text.length)
      } else expect(read.gate.outcomes).toHaveLength(1)
    }), { numRuns: 800 })
  })

  test.each(CONDITIONAL_LANGUAGES)('%s, with a good text spoiled', (language) => {
    const good = {
      sql: `CASE WHEN "Decay" < 12 AND NOT ("Lean" IS NULL) THEN 'Sound' WHEN "Species" IN ('oak', 'ash') THEN 'Watch' ELSE 'Weak' END`,
      openformula: '=IF(AND(Decay<12;NOT(ISBLANK(Lean)));"Sound";IF(OR(EXACT(Species;"oak");EXACT(Species;"ash"));"Watch";"Weak"))',
      feel: 'if Decay < 12 and Lean != null then "Sound" else if Species in ("oak", "ash") then "Watch" else "Weak"',
    }[language]
    fc.assert(fc.property(fc.nat(good.length), fc.nat(6), fc.oneof(pieces, fc.constant('')), (at, cut, put) => {
      const text = good.slice(0, at) + put + good.slice(at + cut)
      const read = readConditional(text, language, 'Spoiled', TODAY)
      expect('problem' in read ? read.problem.message : read.gate.name).not.toBe('')
    }), { numRuns: 500 })
  })

  test('what is nested without end is refused, and soon', () => {
    for (const [language, text] of [['sql', 'CASE WHEN a > 1 THEN '.repeat(5000)], ['openformula', 'IF('.repeat(20_000)], ['feel', 'if a > 1 then '.repeat(1000)], ['sql', '('.repeat(100_000)], ['sql', 'NOT '.repeat(40_000)], ['openformula', '-'.repeat(100_000)], ['sql', '- '.repeat(50_000)], ['sql', '+'.repeat(100_000)], ['openformula', '+'.repeat(100_000)]] as const) {
      expect(readConditional(text, language, 'Deep', TODAY)).toHaveProperty('problem')
    }
    const chained = (depth: number): string => (depth === 0 ? 'a' : `CASE WHEN ${chained(depth - 1)} = 1 THEN 1 WHEN ${chained(depth - 1)} = 2 THEN 2 ELSE 3 END`)
    expect(readConditional(`CASE WHEN ${chained(9)} = 1 THEN 'x' END`, 'sql', 'Wide', TODAY)).toHaveProperty('problem')
  })
})
