import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { decideRecordByGates, type ReadyGate, readyGates } from '@dime-gate/core/bulk/decide-gates'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { type Gate, HIT_POLICIES } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { crowded, formGates, pointsGates, rulesGates, TODAY } from '@dime-gate/core/testing/arbitrary-gate'
import type { Value } from '@dime-gate/core/value/value'
import { textOfValue, valueFromText } from '@dime-gate/core/value/value-text'
import { readDmn } from '@dime-gate/interchange/dmn/dmn'
import { recordDecider } from './decide-records'

const WRITING = { decimalMark: 'point', dateOrder: 'day' } as const
const HEADERS = ['Height', 'Trunk', 'Species', 'Due', 'Dead', 'M1', 'M2', 'M3']
const BINDING = new Map([['Height', [0]], ['Trunk', [1]], ['Species', [2]], ['Due', [3]], ['Dead', [4]], ['Modules', [5, 6, 7]]])
const KINDS = ['number', 'number', 'text', 'date', 'boolean', 'number', 'number', 'number'] as const

const number = fc.oneof({ weight: 6, arbitrary: crowded }, fc.constantFrom('', ' ', 'n/a', '12 cm'))
const records = fc.array(fc.tuple(
  number, number, fc.constantFrom('oak', 'ash', 'Oak', 'silver birch', ''), fc.constantFrom('2026-02-28', '2026-03-01', '2026-03-02', '2026-02-30', ''),
  fc.constantFrom('true', 'false', '', 'perhaps'), number, number, number,
), { maxLength: 40 })

/** As a person would read the record's texts, one by one. */
function given(record: readonly string[]): (input: string) => Value {
  const one = (at: number): Value => (record[at]!.trim() === '' ? null : valueFromText(record[at]!.trim(), KINDS[at]!))
  return (input) => (input === 'Modules' ? [5, 6, 7].map(one).filter((value) => value !== null) : one(HEADERS.indexOf(input)))
}

test('what is decided of a file, thousands at a time, is what the core decides of each record', () => {
  const adding = HIT_POLICIES.filter((policy) => /sum|min|max/.test(policy))
  const gates: fc.Arbitrary<Gate> = fc.oneof(rulesGates(fc.constantFrom(...HIT_POLICIES.filter((policy) => !adding.includes(policy)))), pointsGates(fc.constantFrom(...adding)), formGates)
  fc.assert(fc.property(gates, records, (gate, table) => {
    const ready: ReadyGate = { gate, lowered: lowered(gate) }
    const { results: [result], unreadable } = recordDecider([ready], BINDING, WRITING, TODAY)(table)
    table.forEach((record, at) => {
      const { status, rule, outcomes } = decideRecord(ready.lowered, given(record), TODAY)
      expect({ status: result!.statuses[at], rule: result!.rules[at], outcomes: result!.outcomes.map((column) => column[at]) })
        .toEqual({ status, rule, outcomes: gate.outcomes.map((_, column) => textOfValue(outcomes[column] ?? null)) })
      expect(result!.why(at).decision.status).toBe(status)
    })
    const bad = table.flatMap((record, at) => (record[0].trim() !== '' && valueFromText(record[0].trim(), 'number') === null ? [at] : []))
    expect([...(unreadable.get('Height')?.keys() ?? [])]).toEqual(bad)
  }), { numRuns: 250 })
})

test('several decisions that feed each other, lists among them', () => {
  const ready = readyGates(readDmn(readFileSync('interchange/dmn/testing/every-policy.dmn', 'utf8'), { gate: () => null, conditions: () => null }))
  if (!('ready' in ready)) throw new Error('the file cannot decide')
  const decide = recordDecider(ready.ready, new Map([['Marks', [0]]]), WRITING, TODAY)
  fc.assert(fc.property(fc.array(fc.oneof(fc.integer({ min: 40, max: 100 }).map(String), fc.constantFrom('', 'x')), { maxLength: 20 }), (marks) => {
    const { results } = decide(marks.map((mark) => [mark]))
    marks.forEach((mark, at) => {
      const expected = decideRecordByGates(ready.ready, () => valueFromText(mark, 'number'), TODAY)
      expect(results.map(({ statuses, outcomes }) => [statuses[at], outcomes[0]![at]])).toEqual(ready.ready.map(({ gate }) => {
        const { status, outcomes } = expected.get(gate.name)!
        return [status, textOfValue(outcomes[0] ?? null)]
      }))
    })
  }), { numRuns: 50 })
})
