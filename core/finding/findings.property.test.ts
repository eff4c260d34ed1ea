import fc from 'fast-check'
import { decideRecord, verdictsOf } from '../decide/decide-record'
import type { Entry, HitPolicy, Input, RulesGate } from '../gate/document'
import { factsOf, type Given } from '../decide/facts'
import { lowered } from '../rule/lower'
import type { Lowered } from '../rule/rules'
import { rulesGate, TODAY } from '../testing/a-gate'
import { isCertain } from '../decide/verdict'
import { Decimal } from '../value/number'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import type { FindingKind } from './finding'
import { findingsOf } from './findings'

const input = (name: string, type: Input['type']): Input => ({
  name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold',
})
const INPUTS = [input('A', 'number'), input('B', 'number'), input('Species', 'text'), input('Dead', 'boolean')]

const constant = fc.integer({ min: 0, max: 4 })
const oneTest = fc.oneof(
  fc.tuple(fc.constantFrom('A', 'B'), fc.constantFrom('<', '<=', '=', '!=', '>', '>='), constant).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('A', 'B'), constant, constant, fc.constantFrom('[', '('), fc.constantFrom(']', ')')).map(([name, a, b, open, close]) => `${name} in ${open}${Math.min(a, b)}..${Math.max(a, b)}${close}`),
  fc.constantFrom('Species = "oak"', 'Species != "ash"', 'Species in ("oak", "elm")', 'Dead', 'Dead = false', 'true'),
)
const computed = fc.tuple(fc.constantFrom('A - B', 'A + B', 'A * 2', 'string length(Species)'), fc.constantFrom('<', '<=', '=', '!=', '>', '>='), constant).map((parts) => parts.join(' '))
const conditionOn = (one: fc.Arbitrary<string>) => fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' }, one, fc.tuple(tie('node'), fc.constantFrom('and', 'or'), tie('node')).map(([a, word, b]) => `(${a} ${word} ${b})`), tie('node').map((one) => `not(${one})`)),
})).node
const entries = fc.constantFrom<Entry[][]>([{ is: 'a' }], [{ is: 'b' }])
const gatesOn = (one: fc.Arbitrary<string>): fc.Arbitrary<RulesGate> => fc.record({
  hitPolicy: fc.constantFrom<HitPolicy>('first', 'unique'),
  rules: fc.array(fc.record({ condition: conditionOn(one), entries, note: fc.constant('') }), { maxLength: 5 }),
  otherwise: fc.option(entries, { nil: null }),
}).map((parts) => ({ schema: 1, form: 'rules', name: 'Random', inputs: INPUTS, outcomes: [{ name: 'Label', type: 'text', labels: [] }], ...parts }))
const gates = gatesOn(oneTest)

/** A value on, beside and between all constants that the tests can hold. */
const NUMBERS = Array.from({ length: 11 }, (_, at) => new Decimal(at - 1).div(2))
const RECORDS = NUMBERS.flatMap((A) => NUMBERS.flatMap((B) => ['oak', 'ash', 'elm', 'yew'].flatMap((Species) => [true, false].map((Dead): Record<string, Value> => ({ A, B, Species, Dead })))))

const HOLES: ReadonlySet<FindingKind> = new Set(['gap', 'edge hole', 'step hole'])

/** The records for which any of these conditions is true. */
function takenByAny(conditions: readonly string[]): Record<string, Value>[] {
  const gate = lowered(rulesGate(INPUTS, conditions.map((text) => [text === '' ? '-' : text, 'x'])))
  return RECORDS.filter((record) => verdictsOf(gate, factsOf(gate, (name) => record[name]!, TODAY)).some(isCertain))
}

function isMet(condition: string, given: Given): boolean {
  const gate = lowered(rulesGate(INPUTS, [[condition, 'x']]))
  return verdictsOf(gate, factsOf(gate, given, TODAY)).every(isCertain)
}

function everyRecord(gate: Lowered) {
  return RECORDS.map((record) => {
    const given = (name: string) => record[name]!
    const verdicts = verdictsOf(gate, factsOf(gate, given, TODAY))
    return { isTrue: verdicts.map(isCertain), rule: decideRecord(gate, given, TODAY).rule, status: decideRecord(gate, given, TODAY).status }
  })
}

test('on small gates the findings are those that trying every kind of record gives', () => {
  fc.assert(fc.property(gates, (document) => {
    const gate = lowered(document)
    const records = everyRecord(gate)
    const { findings, unproven, areGapsProven, more } = findingsOf(gate, TODAY)
    const rulesOf = (kind: FindingKind) => findings.filter((finding) => finding.kind === kind).map(({ rules }) => rules[0])
    const places = [...gate.rules.keys()]
    const label = (rule: number) => JSON.stringify(document.rules[rule]!.entries)
    expect([unproven, areGapsProven, more]).toEqual([[], true, {}])

    const left = RECORDS.filter((_, at) => !records[at]!.isTrue.includes(true))
    const holes = findings.filter(({ kind }) => HOLES.has(kind))
    expect(takenByAny(holes.map(({ condition }) => condition))).toEqual(left)

    const isFirst = document.hitPolicy === 'first'
    const isNever = (rule: number) => !records.some(({ isTrue }) => isTrue[rule] && (!isFirst || isTrue.indexOf(true) === rule))
    expect(rulesOf('never reached')).toEqual(places.filter(isNever))
    for (const { rules: [rule, ...takers] } of findings.filter(({ kind }) => kind === 'never reached')) {
      const isTakenBy = (rules: readonly number[]) => records.every(({ isTrue }) => !isTrue[rule!] || rules.some((at) => isTrue[at]))
      expect([isTakenBy(takers), takers.some((_, at) => isTakenBy(takers.toSpliced(at, 1)))]).toEqual([true, false])
    }

    // With First an exception before its general rule is what the order is for.
    const meet = (a: number, b: number) => records.some(({ isTrue }) => isTrue[a] && isTrue[b])
    const isWithin = (a: number, b: number) => records.every(({ isTrue }) => !isTrue[a] || isTrue[b])
    const isTold = (a: number, b: number) => label(a) !== label(b) && meet(a, b) && !(isFirst && (isWithin(a, b) || isNever(a) || isNever(b)))
    expect(findings.filter(({ kind }) => kind === 'overlap').map(({ rules }) => rules)).toEqual(
      places.map((rule) => [rule, ...places.filter((other) => other < rule && isTold(other, rule))]).filter((rules) => rules.length > 1))

    if (document.hitPolicy !== 'first') return
    const without = (rule: number) => records.every(({ isTrue }) => {
      if (isTrue.indexOf(true) !== rule) return true
      const next = isTrue.indexOf(true, rule + 1)
      return (next < 0 ? JSON.stringify(document.otherwise) : label(next)) === label(rule)
    })
    expect(rulesOf('no effect')).toEqual(places.filter((rule) => !isNever(rule) && without(rule)))
  }), { numRuns: 120 })
})

test('every example shows what its finding says, along expressions too', () => {
  fc.assert(fc.property(fc.oneof(gates, gatesOn(fc.oneof(oneTest, computed))), (document) => {
    const gate = lowered(document)
    for (const { kind, rules, example, labels, concerns, condition } of findingsOf(gate, TODAY).findings) {
      if (!example) {
        // No record can show a condition that is never true, nor a likeness of names.
        expect(['never reached', 'near-same labels']).toContain(kind)
        continue
      }
      const given = (name: string) => example[name] ?? null
      expect(concerns.filter((name) => !(name in example))).toEqual([])
      // The place is told by what matters alone.
      if (condition !== '') expect(isMet(condition, (name) => (concerns.includes(name) ? given(name) : null))).toBe(true)
      const { rule, status, outcomes } = decideRecord(gate, given, TODAY)
      const isTrue = verdictsOf(gate, factsOf(gate, given, TODAY)).map(isCertain)
      if (kind === 'gap' || kind === 'edge hole' || kind === 'step hole') expect(['unplaced', 'otherwise']).toContain(status)
      if (kind === 'overlap') expect([isTrue[rules[0]!], isTrue[rules[1]!]]).toEqual([true, true])
      if (kind === 'never reached') expect([isTrue[rules[0]!], rule === rules[0]]).toEqual([true, false])
      if (kind === 'no effect') expect(rule).toBe(rules[0])
      if (kind === 'split label') expect(textOfValue(outcomes[0]!)).toBe(labels[0])
    }
  }), { numRuns: 400 })
})
