/**
 * Held, by the book: a record is held where two ways of filling its blanks in give it different results. The reference
 * fills them in with values on, beside and between everything that the tests speak of, and asks for nothing else.
 */
import fc from 'fast-check'
import { Decimal } from '../value/number'
import { parseDate } from '../value/temporal'
import type { Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { Entry, HitPolicy, Input, RulesGate } from '../gate/document'
import { completionsOf, MOST_COMBINED } from '../rule/completions'
import { lowered } from '../rule/lower'
import { TODAY } from '../testing/arbitrary-gate'
import { decideRecord } from './decide-record'

const input = (name: string, type: Input['type'], change: Partial<Input> = {}): Input => ({
  name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold', ...change,
})
const INPUTS = [input('A', 'number'), input('B', 'number', { precision: { kind: 'half up', places: 0 } }), input('Species', 'text'), input('Dead', 'boolean'), input('Due', 'date')]

/** Every value that the tests below could tell from another. */
const FILLED: Record<string, Value[]> = {
  A: Array.from({ length: 11 }, (_, at) => new Decimal(at - 1).div(2)),
  B: Array.from({ length: 7 }, (_, at) => new Decimal(at - 1)),
  Species: ['oak', 'ash', 'elm', 'yew'],
  Dead: [true, false],
  Due: ['2026-02-27', '2026-02-28', '2026-03-01', '2026-03-02', '2026-03-03', '2026-03-04'].map((text) => parseDate(text)),
}

const constant = fc.integer({ min: 0, max: 4 })
const oneTest = fc.oneof(
  fc.tuple(fc.constantFrom('A', 'B'), fc.constantFrom('<', '<=', '=', '!=', '>', '>='), constant).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('A', 'B'), constant, constant, fc.constantFrom('[', '('), fc.constantFrom(']', ')')).map(([name, a, b, open, close]) => `${name} in ${open}${Math.min(a, b)}..${Math.max(a, b)}${close}`),
  fc.constantFrom('Species = "oak"', 'Species != "ash"', 'Species in ("oak", "elm")', 'Dead', 'Dead = false', 'true', 'Due < @"2026-03-01"', 'Due = @"2026-03-02"', 'Due in [@"2026-02-28"..@"2026-03-02"]'),
)
const condition = fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' }, oneTest, fc.tuple(tie('node'), fc.constantFrom('and', 'or'), tie('node')).map(([a, word, b]) => `(${a} ${word} ${b})`), tie('node').map((one) => `not(${one})`)),
})).node
const entries = fc.constantFrom<Entry[][]>([{ is: '1' }], [{ is: '2' }], [{ is: '0' }], [null])
const gates: fc.Arbitrary<RulesGate> = fc.record({
  hitPolicy: fc.constantFrom<HitPolicy>('first', 'unique', 'any', 'priority', 'rule order', 'collect', 'collect count', 'collect sum', 'collect max'),
  rules: fc.array(fc.record({ condition, entries, note: fc.constant('') }), { maxLength: 5 }),
  otherwise: fc.option(entries, { nil: null }),
}).map((parts) => ({ schema: 1, form: 'rules', name: 'Random', inputs: INPUTS, outcomes: [{ name: 'Points', type: 'number', labels: ['2', '1'].map((value) => ({ value, colour: '#112233', mark: 'disc', rank: null })) }], ...parts }))

const record = fc.record(Object.fromEntries(Object.entries(FILLED).map(([name, values]) => [name, fc.option(fc.constantFrom(...values), { nil: null, freq: 2 })])) as Record<string, fc.Arbitrary<Value>>)

/** What comes of a record without blanks: a status where it got nothing, or else what it got, whoever gave it. */
function resultOf(gate: ReturnType<typeof lowered>, given: Record<string, Value>): string {
  const { status, outcomes } = decideRecord(gate, (name) => given[name]!, TODAY)
  return status === 'unplaced' || status === 'contested' ? status : outcomes.map((value) => `is ${textOfValue(value)}`).join()
}

function* filledIn(given: Record<string, Value>): Generator<Record<string, Value>> {
  const blank = Object.keys(given).find((name) => given[name] === null)
  if (blank === undefined) yield given
  else for (const value of FILLED[blank]!) yield* filledIn({ ...given, [blank]: value })
}

test('a record is held where filling its blanks in could make a difference, and nowhere else', () => {
  let [held, spared] = [0, 0]
  fc.assert(fc.property(gates, record, (document, given) => {
    const gate = lowered(document)
    const results = new Set<string>()
    for (const filled of filledIn(given)) {
      results.add(resultOf(gate, filled))
      if (results.size > 1) break
    }
    const decision = decideRecord(gate, (name) => given[name]!, TODAY)
    // Past so many ways of its blanks together they are not tried, and the record is held.
    const ways = [...completionsOf(gate, TODAY).values()].filter(({ input }) => given[input] === null).reduce((product, { ways }) => product * ways.length, 1)
    const isUntried = ways > MOST_COMBINED && decision.status === 'held'
    expect(decision.status === 'held').toBe(isUntried || results.size > 1)
    if (decision.status === 'held') expect(decision.missing.length).toBeGreaterThan(0)
    else expect(resultOf(gate, given)).toBe([...results][0])
    for (const name of decision.missing) expect(given[name]).toBeNull()
    if (decision.status === 'held') held++
    else if (Object.values(given).includes(null)) spared++
  }), { numRuns: 3000 })
  // Else the records would not have been the trial that they are meant to be.
  expect(Math.min(held, spared)).toBeGreaterThan(300)
})
