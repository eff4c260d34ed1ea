import fc from 'fast-check'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { parseExpression } from '@dime-gate/core/expression/parse'
import type { Gate } from '@dime-gate/core/gate/document'
import { lower, lowered } from '@dime-gate/core/rule/lower'
import { recordAt } from '@dime-gate/core/table/table'
import { formGates, rulesGates, tables, TODAY } from '@dime-gate/core/testing/arbitrary-gate'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { gateToFeel } from './gate-to-feel'

/** As FEEL itself has it, a blank passes. */
const passing = (gate: Gate): Gate => ({ ...gate, inputs: gate.inputs.map((input) => ({ ...input, blank: 'pass' })) })
const text = (value: Parameters<typeof textOfValue>[0] | undefined) => (value === undefined || value === null ? null : textOfValue(value))

test.each([
  ['rules', rulesGates(fc.constant('first'))],
  ['other forms', formGates],
] as const)('%s written as FEEL give what the gate gives, outcome for outcome', (_, gates) => {
  fc.assert(fc.property(gates, tables, (drawn, table) => {
    const gate = passing(drawn)
    if ('problems' in lower(gate)) return
    const own = lowered(gate)
    gate.outcomes.forEach(({ name }, at) => {
      const parsed = parseExpression(gateToFeel({ conditions: [], gates: [gate] }, gate.name, name), gate.inputs.map((input) => input.name))
      if ('problem' in parsed) throw new Error(JSON.stringify(parsed.problem))
      for (let place = 0; place < Math.min(20, table.length); place++) {
        const value = recordAt(table, place)
        const written = evaluate(parsed.tree, { value, today: TODAY })
        expect(text(written)).toBe(text(decideRecord(own, value, TODAY).outcomes[at]))
      }
    })
  }), { numRuns: 150 })
})
