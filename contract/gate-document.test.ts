import fc from 'fast-check'
import { findingsOf } from '@dime-gate/core/finding/findings'
import { lower } from '@dime-gate/core/rule/lower'
import { formGates, rulesGates, TODAY } from '@dime-gate/core/testing/arbitrary-gate'
import type { Gate } from '@dime-gate/core/gate/document'
import { gateDocumentSchema, librarySchema } from './gate-document'

const gates: fc.Arbitrary<Gate> = fc.oneof(formGates, rulesGates(fc.constantFrom('first', 'unique', 'collect count')))

test('every gate is the same after a way through JSON and the schema', () => {
  fc.assert(fc.property(gates, (gate) => {
    expect(gateDocumentSchema.parse(JSON.parse(JSON.stringify(gate)))).toEqual(gate)
  }))
})

/** A value somewhere in a document put in the place of another, left out, or replaced by something else. */
function mutated(document: unknown, picks: readonly number[], put: unknown): unknown {
  const copy = JSON.parse(JSON.stringify(document)) as Record<string, unknown>
  let at: Record<string, unknown> = copy
  for (const pick of picks) {
    const keys = Object.keys(at)
    if (keys.length === 0) break
    const key = keys[pick % keys.length]!
    const inner = at[key]
    if (typeof inner === 'object' && inner !== null && pick % 4 !== 0) at = inner as Record<string, unknown>
    else {
      if (put === undefined) delete at[key]
      else at[key] = put
      break
    }
  }
  return copy
}

const anything = fc.oneof(fc.constantFrom<unknown>(undefined, null, '', 'Height', '-', '1e99', 'not(', '(((', '__proto__', -1, 1e308, [], {}, true, '2026-02-30', 'A'.repeat(3000)), fc.jsonValue({ maxDepth: 2 }))

test('any document is refused by place, or lowered, or told what is wrong with it: nothing breaks', () => {
  fc.assert(fc.property(gates, fc.array(fc.nat(40), { minLength: 1, maxLength: 7 }), anything, (gate, picks, put) => {
    const parsed = gateDocumentSchema.safeParse(mutated(gate, picks, put))
    if (!parsed.success) {
      expect(parsed.error.issues.length).toBeGreaterThan(0)
      return
    }
    const lowering = lower(parsed.data)
    if ('problems' in lowering) expect(lowering.problems.length).toBeGreaterThan(0)
    else expect(() => findingsOf(lowering.lowered, TODAY)).not.toThrow()
  }), { numRuns: 400 })
})

test('a library holds gates and the conditions that they share', () => {
  const library = { conditions: [{ name: 'Overdue', feel: 'Due < today()' }], gates: [] }
  expect(librarySchema.parse(library)).toEqual(library)
  expect(librarySchema.safeParse({ ...library, more: 1 }).success).toBe(false)
})
