import fc from 'fast-check'
import type { Gate, RulesGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
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
  expect(fixOf(near, 'near-same labels')).toEqual({ kind: 'rename label', from: 'this week', to: 'This week' })
  const silent = rulesGate(INPUTS.map((input) => ({ ...input, blank: null })), [['Score > 70', 'a'], ['-', 'b']])
  expect(fixOf(silent, 'blank unsaid')).toEqual({ kind: 'hold on blanks', input: 'Score' })
})

test('a gap has no fix of one step: nobody but its author knows the label', () => expect(fixOf(rulesGate(INPUTS, [['Score < 50', 'a'], ['Score > 60', 'b']]), 'gap')).toBeNull())

const condition = fc.tuple(fc.constantFrom('Score', 'Score', 'Score'), fc.constantFrom('<', '<=', '>', '>='), fc.integer({ min: 1, max: 4 })).map((parts) => parts.join(' '))
const gates: fc.Arbitrary<RulesGate> = fc.array(fc.tuple(fc.oneof(condition, fc.tuple(condition, fc.constantFrom('Species = "oak"', 'Due < today()')).map((parts) => parts.join(' and '))), fc.constantFrom('a', 'b', 'ground', 'Ground')), { minLength: 1, maxLength: 4 })
  .map((pairs) => rulesGate(INPUTS.map((input) => ({ ...input, blank: null })), pairs as [string, string][]))

test('every fix does what it says: its finding goes, and no error comes', () => {
  let fixed = 0
  const errors = (all: readonly Finding[]) => all.filter(({ severity }) => severity === 'error').length
  fc.assert(fc.property(gates, (gate) => {
    const before = findings(gate)
    for (const finding of before) {
      const fix = fixFor(gate, finding, TODAY)
      if (!fix) continue
      fixed++
      const after = findings(applyFix(gate, fix))
      const alike = (all: readonly Finding[]) => all.filter((other) => other.kind === finding.kind && JSON.stringify([other.where, other.labels]) === JSON.stringify([finding.where, finding.labels])).length
      expect(alike(after)).toBeLessThan(alike(before))
      expect(errors(after)).toBeLessThanOrEqual(errors(before))
    }
  }), { numRuns: 60 })
  expect(fixed).toBeGreaterThan(20)
})
