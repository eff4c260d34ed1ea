import fc from 'fast-check'
import type { Gate, RulesGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { decideRecord } from '../decide/decide-record'
import { Decimal } from '../value/number'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import type { Finding, FindingKind } from './finding'
import { findingsOf } from './findings'
import { applyFix, type Fix, fixFor } from './fixes'

const INPUTS = [anInput('Score', 'number'), anInput('Species', 'text'), anInput('Due', 'date')]
const findings = (gate: Gate) => findingsOf(lowered(gate), TODAY).findings
const fixOf = (gate: Gate, kind: FindingKind): Fix | null => fixFor(gate, findings(gate).find((finding) => finding.kind === kind)!, TODAY)

test('a cut that nobody owns is given to the rule above it', () => {
  expect(fixOf(rulesGate(INPUTS, [['Score < 50', 'fail'], ['Score > 50', 'pass']]), 'edge hole')).toEqual({ kind: 'change condition', rule: 1, condition: 'Score >= 50' })
  expect(fixOf(rulesGate(INPUTS, [['Score in (0..50) or Score <= 0', 'fail'], ['Score in (50..100) or Score >= 100', 'pass']]), 'edge hole')).toEqual({ kind: 'change condition', rule: 1, condition: 'Score in [50..100) or Score >= 100' })
})

test('what lies between whole numbers goes to the rule below', () => {
  expect(fixOf(rulesGate(INPUTS, [['Score <= 49', 'c'], ['Score in [50..64]', 'b'], ['Score >= 65', 'a']]), 'step hole')).toEqual({ kind: 'change condition', rule: 0, condition: 'Score < 50' })
})

test('a rule that is never reached is moved before what shadows it, or goes', () => {
  expect(fixOf(rulesGate(INPUTS, [['Score > 10', 'a'], ['Score > 20', 'b'], ['-', 'c']]), 'never reached')).toEqual({ kind: 'move rule', rule: 1, to: 0 })
  expect(fixOf(rulesGate(INPUTS, [['Score > 3 and Score < 2', 'a'], ['-', 'c']]), 'never reached')).toEqual({ kind: 'remove rule', rule: 0 })
})

test('a rule without effect goes; labels become one; a blank is held by word', () => {
  expect(fixOf(rulesGate(INPUTS, [['Score > 70', 'a'], ['Score > 50', 'a'], ['-', 'b']]), 'no effect')).toEqual({ kind: 'remove rule', rule: 0 })
  const near = rulesGate(INPUTS, [['Score > 70', 'This week'], ['-', 'this week']])
  expect(fixOf(near, 'near-same labels')).toEqual({ kind: 'rename labels', from: ['this week'], to: 'This week' })
  const silent = rulesGate(INPUTS.map((input) => ({ ...input, blank: null })), [['Score > 70', 'a'], ['-', 'b']])
  expect(fixOf(silent, 'blank unsaid')).toEqual({ kind: 'hold on blanks', input: 'Score' })
})

test('a gap has no fix of one step: nobody but its author knows the label', () => expect(fixOf(rulesGate(INPUTS, [['Score < 50', 'a'], ['Score > 60', 'b']]), 'gap')).toBeNull())

test('a range said with `between` goes up to the next', () => {
  const gate = rulesGate(INPUTS, [['Score between 0 and 49', 'c'], ['Score between 50 and 64', 'b']])
  expect(fixOf(gate, 'step hole')).toEqual({ kind: 'change condition', rule: 0, condition: 'Score in [0..50)' })
})

test('where widening a rule would take records from another, a last rule takes the hole alone', () => {
  const gate = rulesGate(INPUTS, [['Score <= 49', 'c'], ['Score >= 50', 'b'], ['Species = "oak"', 'o']])
  expect(fixOf(gate, 'step hole')).toEqual({ kind: 'add rule', condition: 'Score in (49..50) and Species != "oak"', like: 0 })
})

test('of two rules alike the second goes; changing places would be no fix', () => {
  expect(fixOf(rulesGate(INPUTS, [['Score > 10', 'a'], ['Score > 10', 'b'], ['-', 'c']]), 'never reached')).toEqual({ kind: 'remove rule', rule: 1 })
})

const number = fc.tuple(fc.constantFrom('<', '<=', '>', '>=', '='), fc.integer({ min: 1, max: 4 })).map((parts) => ['Score', ...parts].join(' '))
const range = fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 }), fc.boolean()).map(([a, b, isBetween]) => (isBetween ? `Score between ${Math.min(a, b)} and ${Math.max(a, b)}` : `Score in [${Math.min(a, b)}..${Math.max(a, b)}]`))
const other = fc.constantFrom('Species = "oak"', 'Due < today()', 'Species != "ash"')
const condition = fc.oneof({ weight: 3, arbitrary: number }, { weight: 2, arbitrary: range }, other, fc.tuple(number, fc.constantFrom('and', 'or'), other).map((parts) => parts.join(' ')))
const gates: fc.Arbitrary<RulesGate> = fc.array(fc.tuple(condition, fc.constantFrom('a', 'b', 'ground', 'Ground')), { minLength: 1, maxLength: 4 })
  .map((pairs) => rulesGate(INPUTS.map((input) => ({ ...input, blank: null })), pairs))

const RECORDS = Array.from({ length: 12 }, (_, at) => new Decimal(at - 1).div(2)).flatMap((Score) => ['oak', 'ash', 'elm'].flatMap((Species) => [-1, 1].map((days) => ({ Score, Species, Due: { ...TODAY, day: TODAY.day + days } } as Record<string, Value>))))

function labelsOf(gate: Gate): string[] {
  const ready = lowered(gate)
  return RECORDS.map((record) => {
    const { status, outcomes } = decideRecord(ready, (name) => record[name]!, TODAY)
    return status === 'labelled' ? textOfValue(outcomes[0]!) : status
  })
}

/** The records that a condition is true for. */
function taken(condition: string): boolean[] {
  return labelsOf(rulesGate(INPUTS, [[condition, 'x']])).map((label) => label === 'x')
}

test('every fix does what it says: its finding goes, no error comes, and records that it is not about keep their labels', () => {
  const fixed: Partial<Record<Fix['kind'], number>> = {}
  const errors = (all: readonly Finding[]) => all.filter(({ severity }) => severity === 'error').length
  fc.assert(fc.property(gates, (gate) => {
    const before = findings(gate)
    for (const finding of before) {
      const fix = fixFor(gate, finding, TODAY)
      if (!fix) continue
      fixed[fix.kind] = (fixed[fix.kind] ?? 0) + 1
      const changed = applyFix(gate, fix)
      const after = findings(changed)
      const alike = (all: readonly Finding[]) => all.filter(({ kind }) => kind === finding.kind).length
      expect(alike(after)).toBeLessThan(alike(before))
      expect(errors(after)).toBeLessThanOrEqual(errors(before))

      if (fix.kind === 'rename labels') continue
      const concerned = fix.kind === 'move rule' ? taken(gate.rules[fix.rule]!.condition) : fix.kind === 'change condition' || fix.kind === 'add rule' ? taken(finding.condition) : RECORDS.map(() => false)
      const [was, is] = [labelsOf(gate), labelsOf(changed)]
      expect(is.map((label, at) => (concerned[at] ? null : label))).toEqual(was.map((label, at) => (concerned[at] ? null : label)))
      if (fix.kind === 'change condition' || fix.kind === 'add rule') expect(is.filter((label, at) => concerned[at] && label === 'unplaced')).toEqual([])
    }
  }), { numRuns: 200 })
  expect(Object.keys(fixed)).toHaveLength(6)
})
