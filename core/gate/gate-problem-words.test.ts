import { anInput, rulesGate } from '../testing/a-gate'
import type { Gate, Input, ScaleGate } from './document'
import { gateProblemWords } from './gate-problem-words'
import { lower } from '../rule/lower'

const scale = (change: Partial<ScaleGate> = {}): ScaleGate => ({
  schema: 1, form: 'scale', name: 'Scale', inputs: [anInput('Decay', 'number')], on: 'Decay', cuts: [{ at: '12', owner: 'above' }], floor: null, ceiling: null, otherwise: null,
  outcomes: [{ name: 'Label', type: 'text', labels: [] }], bands: [{ entries: [{ is: 'low' }] }, { entries: [{ is: 'high' }] }], ...change,
})
const rules = (inputs: Input[], condition = 'true', change = {}) => rulesGate(inputs, [[condition, 'x']], change)
const label = (value: string) => ({ value, colour: '#7fa99a', mark: 'disc' as const, rank: null })
const source = (gate: string, outcome: string | null): Input['source'] => ({ kind: 'gate', gate, outcome })

test.each<[Gate, string, RegExp]>([
  [scale({ outcomes: [] }), 'outcomes', /no outcome/],
  [rules([anInput('a', 'number'), anInput('a', 'text')]), 'inputs.1.name', /“a” is given twice/],
  [rules([anInput('a (cm)', 'number')]), 'inputs.0.name', /“a \(cm\)”: it holds a sign that names cannot\. Rename it/],
  [rules([anInput('then', 'number')]), 'inputs.0.name', /“then”: it is a word of the language/],
  [rules([anInput('1st', 'number')]), 'inputs.0.name', /“1st”: it begins with a figure/],
  [scale({ on: 'Lean' }), 'on', /no input “Lean”/],
  [scale({ inputs: [anInput('Decay', 'boolean')] }), 'on', /“Decay” has no values in an order/],
  [scale({ bands: [{ entries: [{ is: 'low' }] }] }), 'bands', /one band more than it has cuts/],
  [scale({ cuts: [{ at: '12', owner: 'above' }, { at: '3', owner: 'above' }], bands: [1, 2, 3].map(() => ({ entries: [{ is: 'x' }] })) }), 'cuts.1', /does not lie above the one before/],
  [scale({ floor: { at: '20', included: true } }), 'bands.0', /No value can lie in this band/],
  [scale({ cuts: [{ at: 'twelve', owner: 'above' }] }), 'cuts.0', /“twelve” is no number/],
  [scale({ bands: [{ entries: [] }, { entries: [{ is: 'high' }] }] }), 'bands.0.entries', /There are 0 results here, where the gate has 1 outcome\./],
  [scale({ outcomes: [{ name: 'Label', type: 'text', labels: [label('low'), label('low')] }] }), 'outcomes.0.labels.1', /“low” is listed twice/],
  [rules([anInput('a', 'number')], 'b > 3'), 'rules.0.condition', /Nothing is named “b”/],
  [rules([anInput('a', 'number')], 'true', { outcomes: [{ name: 'Points', type: 'number', labels: [] }], rules: [{ condition: '-', entries: [{ feel: '"x"' }], note: '' }] }), 'rules.0.entries.0', /“"x"” gives a text/],
  [rules([{ ...anInput('a', 'number'), source: { kind: 'figure', feel: 'b + 1' } }, { ...anInput('b', 'number'), source: { kind: 'figure', feel: 'a + 1' } }]), 'inputs', /figures need each other, in a ring: a, b|figures need each other, in a ring: b, a/],
  [rules([{ ...anInput('a', 'text'), source: source('Gone', null) }]), 'inputs.0.source', /no gate “Gone”/],
  [rules([{ ...anInput('a', 'text'), precision: { kind: 'half up', places: 1 } }]), 'inputs.0.precision', /“a” is no number/],
  [rules([anInput('a', 'number')], 'true', { hitPolicy: 'collect sum' }), 'outcomes.0', /“collect sum” adds up or compares numbers/],
])('%#: what is wrong is said with its name, at %s', (gate, path, words) => {
  const lowering = lower(gate)
  const problems = 'problems' in lowering ? lowering.problems : []
  expect(problems.map((problem) => [problem.path, gateProblemWords(problem)])).toContainEqual([path, expect.stringMatching(words)])
})

test('conditions that need each other, and outcomes that another gate has not', () => {
  const ring = lower(rules([anInput('x', 'number')], 'one'), { conditions: [{ name: 'one', feel: 'two' }, { name: 'two', feel: 'one' }], gates: [] })
  expect('problems' in ring && gateProblemWords(ring.problems[0]!)).toMatch(/^These conditions need each other, in a ring: /)
  const other = rules([anInput('x', 'number')], 'true', { name: 'Other' })
  const missing = lower(rules([{ ...anInput('a', 'text'), source: source('Other', 'Points') }]), { conditions: [], gates: [other] })
  expect('problems' in missing && gateProblemWords(missing.problems[0]!)).toBe('The gate “Other” has no outcome “Points”.')
})
