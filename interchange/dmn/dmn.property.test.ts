import fc from 'fast-check'
import type { Gate, Library } from '@dime-gate/core/gate/document'
import { HIT_POLICIES } from '@dime-gate/core/gate/document'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lowered } from '@dime-gate/core/rule/lower'
import { formGates, pointsGates, rulesGates, tables, TODAY } from '@dime-gate/core/testing/arbitrary-gate'
import { recordAt } from '@dime-gate/core/table/table'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { OF_OTHERS, TRUSTING } from '../testing/shapes'
import { readDmn, writeDmn } from './dmn'

const adding = ['collect sum', 'collect min', 'collect max'] as const
const others = HIT_POLICIES.filter((policy) => !(adding as readonly string[]).includes(policy))
const gates: fc.Arbitrary<Gate> = fc.oneof(rulesGates(fc.constantFrom(...others)), pointsGates(fc.constantFrom(...HIT_POLICIES.filter((policy) => policy !== 'priority' && policy !== 'output order'))), formGates)
const library = (gate: Gate): Library => ({ conditions: [], gates: [gate] })
const passing = (gate: Gate): Gate => ({ ...gate, inputs: gate.inputs.map((input) => ({ ...input, blank: 'pass' })) })

test('a gate written as DMN and read again is the same gate', () => {
  fc.assert(fc.property(gates, (gate) => {
    expect(readDmn(writeDmn(library(gate)), TRUSTING)).toEqual(library(gate))
  }), { numRuns: 300 })
})

test('read without its document, as another program would, it decides every record alike where blanks pass', () => {
  fc.assert(fc.property(gates.map(passing), tables, (gate, table) => {
    const [read] = readDmn(writeDmn(library(gate)), OF_OTHERS).gates
    const [before, after] = [lowered(gate), lowered(read!)]
    for (let at = 0; at < Math.min(table.length, 20); at++) {
      const given = recordAt(table, at)
      const [a, b] = [decideRecord(before, given, TODAY), decideRecord(after, given, TODAY)]
      expect([b.status, b.rule, b.outcomes.map(textOfValue)]).toEqual([a.status, a.rule, a.outcomes.map(textOfValue)])
    }
  }), { numRuns: 300 })
})
