import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { Analysis } from './told-findings'

const GATE = rulesGate(
  [anInput('Decay', 'number', { unit: '%' })],
  [
    ['Decay > 40', 'Fell'],
    ['Decay > 25', 'Climb'],
    ['Decay > 50', 'Climb'],
  ],
  { otherwise: [{ is: 'Leave' }] },
)
const asked = (gate = GATE) => ({ gate, feeding: [], asOf: '2026-03-02' })

test('findings come in words, with the rules that they are about, and one step mends what it can', () => {
  const analysis = new Analysis()
  const { told } = analysis.findings(asked())!
  const at = told.findIndex(({ words }) => words.startsWith('Rule 3 is never reached'))
  expect(told[at]).toMatchObject({ severity: 'warning', rules: [2, 0] })
  const fix = analysis.fix(at)!
  expect(fix.words).toMatch(/rule 3/i)
  expect(analysis.findings(asked(fix.gate as typeof GATE))!.told.map(({ words }) => words)).not.toContainEqual(
    expect.stringMatching(/never reached/),
  )
  expect(told.find(({ words }) => words.startsWith('No rule takes'))!.words).toBe('No rule takes Decay at most 25\u00a0%.')
})

test('a finding is the same one after its rule has moved, and another one of another rule', () => {
  const two = { ...GATE, rules: [...GATE.rules, { condition: 'Decay > 60', entries: [{ is: 'Climb' }], note: '' }] }
  const keys = (gate: typeof GATE) =>
    new Analysis()
      .findings(asked(gate))!
      .told.filter(({ words }) => /is never reached/.test(words))
      .map(({ key }) => key)
  expect(new Set(keys(two)).size).toBe(2)
  expect(keys({ ...two, rules: [two.rules[0]!, two.rules[1]!, two.rules[3]!, two.rules[2]!] }).toSorted()).toEqual(keys(two).toSorted())
})

test('a gate that cannot decide has no findings, and nothing to mend', () => {
  const analysis = new Analysis()
  expect(analysis.findings(asked({ ...GATE, rules: [{ condition: 'Decay >', entries: [null], note: '' }] }))).toBeNull()
  expect(analysis.fix(0)).toBeNull()
})
