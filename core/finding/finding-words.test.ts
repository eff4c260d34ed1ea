import fc from 'fast-check'
import { lower, lowered } from '../rule/lower'
import { formGates, rulesGates, TODAY } from '../testing/arbitrary-gate'
import { anInput, rulesGate } from '../testing/a-gate'
import { findingsOf } from './findings'
import { exampleWords, findingWords } from './finding-words'

function told(pairs: [string, string][], change = {}): string[] {
  const inputs = [anInput('Decay', 'number'), anInput('Score', 'number', { expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '5', included: true } } }), anInput('Species', 'text'), anInput('Modules', 'number', { isSet: true })]
  const gate = lowered(rulesGate(inputs, pairs, change))
  return findingsOf(gate, TODAY).findings.map((finding) => `${finding.kind}: ${findingWords(finding, gate.rules.map(({ path }) => path))} ${exampleWords(finding)}`.trim())
}

test.each<[string, [string, string][], RegExp]>([
  ['gap', [['Decay < 10', 'a'], ['Decay >= 20', 'b']], /^gap: No rule takes Decay in \[10\.\.20\)\. Decay 10$/],
  ['edge hole', [['Decay < 10', 'a'], ['Decay > 10', 'b']], /^edge hole: Exactly this value is taken by no rule: Decay = 10\. Decay 10$/],
  ['step hole', [['Decay <= 64', 'a'], ['Decay >= 65', 'b']], /^step hole: Ranges of whole numbers leave out what lies between them: Decay in \(64\.\.65\)\. Decay 64\.5$/],
  ['overlap', [['Decay > 10', 'a'], ['Decay <= 20', 'c']], /^overlap: Where rule 1 and rule 2 are both true, rule 1 comes first: “a”, not “c”\. Decay 1\d$/],
  ['several overlaps', [['Decay > 10', 'a'], ['Decay < 5', 'b'], ['Decay in [3..20]', 'c']], /^overlap: Where rule 3 is true together with rule 1 or rule 2, the earlier one decides, with another result\. Decay 1\d$/],
  ['never reached', [['Decay > 10', 'a'], ['Decay > 20', 'b'], ['-', 'c']], /^never reached: Rule 2 is never reached: rule 1 takes all its records first\. Decay 21$/],
  ['never true', [['Decay > 10 and Decay < 5', 'a'], ['-', 'c']], /^never reached: Rule 1 can never be true: what it asks for excludes itself\.$/],
  ['no effect', [['Decay > 10', 'a'], ['-', 'a']], /^no effect: Without rule 1 every record would get the same\./],
  ['split label', [['Decay < 10', 'a'], ['Decay < 20', 'b'], ['-', 'a']], /^split label: “a” stands on separate stretches of Decay, with other labels between them: Decay in \(< 10, >= 20\)\./],
  ['near-same labels', [['Decay < 10', 'Sound'], ['Decay < 20', 'sound'], ['Decay < 30', 'Sound '], ['-', 'SOUND']], /^near-same labels: “Sound”, “sound”, “Sound ” and “SOUND” are almost the same label\.$/],
  ['not expected', [['Score > 50 or Score = 70', 'a'], ['Score <= 50', 'b']], /^outside range: Rule 1 and rule 2 ask about Score = 50, which is not expected of Score\. Score 50$/],
])('%s', (_, pairs, words) => expect(told(pairs)).toContainEqual(expect.stringMatching(words)))

test('what a list leaves out is told without what it looks like inside', () => {
  const gate = lowered({
    schema: 1, form: 'match', name: 'Leaf', on: 'Species', folds: true, inputs: [anInput('Species', 'text')], outcomes: [{ name: 'Label', type: 'text', labels: [] }],
    lines: [{ values: ['oak', 'ash'], entries: [{ is: 'a' }] }, { values: ['elm'], entries: [{ is: 'b' }] }], otherwise: null,
  })
  const words = findingsOf(gate, TODAY).findings.filter(({ kind }) => kind === 'gap').map((finding) => findingWords(finding, gate.rules.map(({ path }) => path)))
  expect(words).toEqual(['No tray takes any other Species.'])
})

test('a band is called a band, and what is not proven says so', () => {
  const gate = lowered(rulesGate([anInput('a', 'number'), anInput('b', 'number')], [['a - b > 3', 'x'], ['a - b > 5', 'y']]))
  const words = findingsOf(gate, TODAY).findings.map((finding) => findingWords(finding, ['bands.0', 'cells.1.2']))
  expect(words).toEqual([
    'No band takes a - b <= 3. The example is sure; whether all of that can occur is not known, since it is computed.',
    'Cell 2.3 is never reached: band 1 takes all its records first.',
  ])
})

test('places are said in FEEL, as an analyst would', () => {
  expect(told([['Species = "p"', 'a'], ['Decay > Score', 'b']])).toEqual(expect.arrayContaining([expect.stringMatching(/No rule takes Species != "p" and Decay <= Score\./)]))
  expect(told([['Species in ("p", "q")', 'a']])[0]).toMatch(/No rule takes not\(Species in \("p", "q"\)\)\. Species anything else/)
  expect(told([['Decay > Score', 'a'], ['Decay < Score', 'b']])[0]).toMatch(/taken by no rule: Decay = Score\./)
  expect(told([['contains(Species, "oak")', 'a']])[0]).toMatch(/No rule takes not\(contains\(Species, "oak"\)\)\./)
  expect(told([['Decay = 0', 'a'], ['Species = "p"', 'b']])[0]).toMatch(/No rule takes Decay != 0 and Species != "p"\./)
})

test('a count is never below nothing, nor between whole numbers', () => {
  expect(told([['count(Modules) = 0', 'none'], ['count(Modules) in (1, 2)', 'few'], ['count(Modules) > 2', 'many']])).toEqual([])
  expect(told([['count(Modules) > 0', 'some']])[0]).toMatch(/No rule takes count\(Modules\) = 0\./)
})

test('an ordinary ladder has nothing to tell', () => {
  expect(told([['Decay >= 70', 'a'], ['Decay >= 60', 'b'], ['Decay >= 50', 'c'], ['-', 'd']])).toEqual([])
  expect(told([['Species = "oak" and Decay > 3', 'a'], ['Decay > 3', 'b'], ['-', 'c']])).toEqual([])
})

test('every finding of every gate has words, without holes in them', () => {
  fc.assert(fc.property(fc.oneof(rulesGates(fc.constantFrom('first', 'unique')), formGates), (gate) => {
    const lowering = lower(gate)
    if (!('lowered' in lowering)) return
    for (const finding of findingsOf(lowering.lowered, TODAY).findings) {
      const words = findingWords(finding, lowering.lowered.rules.map(({ path }) => path))
      expect(words).toMatch(/^[A-Z“].*[.]$/s)
      expect(words).not.toMatch(/undefined|null|““|\(\)/)
    }
  }), { numRuns: 60 })
})
