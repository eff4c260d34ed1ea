import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { switchRule } from '@dime-gate/core/gate/edit-rules'
import { tryOut } from './trial'
import { walkWords } from './walk-words'

const GATE = rulesGate(
  [anInput('Decay', 'number', { unit: '%' }), anInput('Stands by', 'text')],
  [
    ['Decay >= 40', 'Fell'],
    ['Decay >= 25 and Stands by = "school"', 'Climb'],
    ['Decay >= 0', 'Leave'],
  ],
)
const walked = (gate: typeof GATE, typed: Record<string, string>) =>
  walkWords(tryOut({ gate, feeding: [] }, typed, '2026-03-02')!.why, gate).map(({ rule, verdict, tests }) => [
    rule,
    verdict,
    ...tests.map((test) => `${test.verdict}: ${test.words}, ${test.remark}`),
  ])

test('each rule down to the one that decides is told, test by test, with the distance to where it would turn', () => {
  expect(walked(GATE, { Decay: '38', 'Stands by': 'school' })).toEqual([
    [0, 'false', 'false: Decay at least 40\u00a0%, 38, 2 short'],
    [1, 'true', 'true: Decay at least 25\u00a0%, 38, 13 past', 'true: Stands by is school, school'],
  ])
})

test('what is blank is unknown, and what lies on a cut says so', () => {
  expect(walked(GATE, { 'Stands by': 'road' })[0]).toEqual([0, 'unknown', 'unknown: Decay at least 40\u00a0%, blank'])
  expect(walked(GATE, { Decay: '40' })).toEqual([[0, 'true', 'true: Decay at least 40\u00a0%, 40, exactly on it']])
})

test('a test that must not hold is told as it is written, with what it came to', () => {
  const gate = rulesGate(GATE.inputs, [['not(Stands by in ("road", "verge")) and Decay > 3', 'Fell']])
  expect(walked(gate, { Decay: '5', 'Stands by': 'school' })).toEqual([
    [0, 'true', 'true: Stands by is none of road, verge, school', 'true: Decay above 3\u00a0%, 5, 2 past'],
  ])
})

test('a rule that is switched off is not walked', () => {
  expect(walked(switchRule(GATE, 0), { Decay: '50', 'Stands by': 'school' }).map(([rule]) => rule)).toEqual([1])
})
