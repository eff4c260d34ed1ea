import fc from 'fast-check'
import { readyGates } from '../bulk/decide-gates'
import type { RulesGate } from '../gate/document'
import { placesOf } from '../table/bitmap'
import { columnOf } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { resultMaker } from './make-results'

/** Few values, so that cuts meet one another, and records lie on them; a blank, and one that only decimals tell from a cut. */
const VALUES = ['0', '1', '2', '2.5', '3', '4', '5', '3.00000000000000000001']
const value = fc.oneof({ weight: 9, arbitrary: fc.constantFrom(...VALUES) }, { weight: 1, arbitrary: fc.constant(null) })
const aTest = fc.tuple(fc.constantFrom('A', 'B'), fc.constantFrom('>=', '>', '<', '<='), fc.constantFrom(...VALUES.slice(0, 7))).map((parts) => parts.join(' '))
const rule = fc.tuple(aTest, aTest, fc.constantFrom('and', 'or')).map(([one, other, joined]) => `${one} ${joined} ${other}`)

/** Steps of somebody at work: a cut elsewhere, a rule among the others, one more or one less. */
type Step = { kind: 'change'; at: number; rule: string } | { kind: 'move'; at: number; to: number } | { kind: 'add'; rule: string } | { kind: 'remove'; at: number }
const place = fc.nat({ max: 20 })
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('change' as const), at: place, rule }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('move' as const), at: place, to: place }) },
  fc.record({ kind: fc.constant('add' as const), rule }),
  fc.record({ kind: fc.constant('remove' as const), at: place }),
)

function after(rules: readonly string[], one: Step): string[] {
  const { length } = rules
  switch (one.kind) {
    case 'change':
      return rules.with(one.at % length, one.rule)
    case 'add':
      return [...rules, one.rule]
    case 'remove':
      return length > 1 ? rules.toSpliced(one.at % length, 1) : [...rules]
    case 'move': {
      const moved = rules[one.at % length]!
      return rules.toSpliced(one.at % length, 1).toSpliced(one.to % length, 0, moved)
    }
  }
}

function ready(rules: readonly string[], tolerance: string | null) {
  const gate: RulesGate = rulesGate([anInput('A', 'number', { tolerance, expected: { kind: 'range', low: { at: '1', included: true }, high: null } }), anInput('B', 'number')], rules.map((condition, at) => [condition, `label ${at % 3}`]), { otherwise: [{ is: 'rest' }] })
  const found = readyGates({ conditions: [], gates: [gate] })
  if ('problems' in found) throw new Error(JSON.stringify(found.problems))
  return found.ready
}

test('what is counted and listed after change upon change is what is reckoned from scratch', () => {
  const cells = fc.array(fc.tuple(value, value), { minLength: 1, maxLength: 40 })
  fc.assert(fc.property(cells, fc.array(rule, { minLength: 1, maxLength: 5 }), fc.array(step, { minLength: 2, maxLength: 8 }), fc.constantFrom(null, '0.5'), (records, first, steps, tolerance) => {
    const table = { length: records.length, columns: new Map([['A', columnOf('number', records.map(([a]) => a))], ['B', columnOf('number', records.map(([, b]) => b))]]) }
    const follow = resultMaker(() => table, TODAY)
    let rules = first
    for (const one of steps) {
      rules = after(rules, one)
      const gates = ready(rules, tolerance)
      const [followed, anew] = [follow(gates), resultMaker(() => table, TODAY)(gates)]
      const told = (result: typeof followed) => ({ counts: result.counts(), further: result.further(), places: (['on an edge', 'near an edge', 'outside', 'held', 'exceptions'] as const).map((kind) => [...placesOf(result.places({ kind }))]) })
      expect(told(followed)).toEqual(told(anew))
    }
  }), { numRuns: 80 })
})
