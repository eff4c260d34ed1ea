import type { Gate } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { DECAY_SCALE } from '../testing/decay-scale'
import { refusal } from '../testing/refusal'
import { gateToFeel } from './gate-to-feel'

const write = (gates: Gate[], wanted?: string) => gateToFeel({ conditions: [], gates }, gates.at(-1)!.name, wanted)

test('a scale and rules are ifs, one after the other', () => {
  expect(write([DECAY_SCALE])).toMatch(/^if Decay in \[0\.\.12\) then "Sound" else if .* then "Failing" else null$/)
  const gate = rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number')], [['Decay > 40 and Lean > 3', 'fell']], { otherwise: [{ is: 'leave' }] })
  expect(write([gate])).toBe('if Decay > 40 and Lean > 3 then "fell" else "leave"')
})

test('precision, figures, named conditions and gates that feed stand where they are used', () => {
  const band = { ...DECAY_SCALE, name: 'Band' }
  const inputs = [
    anInput('Level', 'text', { source: { kind: 'gate', gate: 'Band', outcome: null } }), anInput('Lean', 'number', { precision: { kind: 'half up', places: 0 } }),
    anInput('Twice', 'number', { source: { kind: 'figure', feel: 'Lean * 2' } }),
  ]
  const gate = rulesGate(inputs, [['Level = "Failing" and Tilted', 'fell']], { conditions: [{ id: 'a', name: 'Tilted', feel: 'Twice > 10' }] })
  expect(write([band, gate])).toMatch(/^if \(if Decay in .*\) = "Failing" and round half up\(Lean, 0\) \* 2 > 10 then "fell" else null$/)
})

test.each([
  ['a policy that an if cannot say', rulesGate([], [['true', 'a']], { hitPolicy: 'unique' }), undefined, /Take it as DMN/],
  ['an outcome that is not there', rulesGate([], [['true', 'a']]), 'Points', /no outcome “Points”/],
  ['a gate that cannot decide', rulesGate([], [['Nobody > 3', 'a']]), undefined, /cannot decide yet/],
])('%s is refused', (_, gate, wanted, words) => expect(refusal(() => write([gate], wanted))).toMatch(words))
