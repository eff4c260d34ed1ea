import { addRule, switchRule } from '@dime-gate/core/gate/edit-rules'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import type { RulesGate } from '@dime-gate/core/gate/document'
import { modelFromGates } from './dmn/model-from-gates'
import { gateToFormula } from './openformula/gate-to-formula'
import { gateToSql } from './sql/gate-to-sql'

const GATE = rulesGate([anInput('Decay', 'number')], [['Decay > 40', 'Fell'], ['Decay > 25', 'Climb']], { otherwise: [{ is: 'Leave' }] })
const ONE_MORE = rulesGate(GATE.inputs, [['Decay > 40', 'Fell'], ['Decay > 90', 'Prop'], ['Decay > 25', 'Climb']], { otherwise: GATE.otherwise, outcomes: GATE.outcomes })
const library = (gate: RulesGate) => ({ conditions: [], gates: [gate] })

test.each([
  ['SQL', (gate: RulesGate) => gateToSql(library(gate), gate.name)],
  ['OpenFormula', (gate: RulesGate) => gateToFormula(library(gate), gate.name)],
  ['DMN', (gate: RulesGate) => modelFromGates(library(gate))],
])('a rule that takes nothing by intent is not in the %s', (_, written) => {
  const expected = written(GATE)
  expect(written(ONE_MORE)).not.toEqual(expected)
  expect(written(switchRule(ONE_MORE, 1))).toEqual(expected)
  expect(written(addRule(GATE, 1, ''))).toEqual(expected)
})
