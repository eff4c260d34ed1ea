import fc from 'fast-check'
import { lower, lowered } from '../rule/lower'
import { formGates, rulesGates, TODAY } from '../testing/arbitrary-gate'
import { anInput, rulesGate } from '../testing/a-gate'
import { findingsOf } from './findings'
import { exampleWords, findingWords } from './finding-words'

function told(pairs: [string, string][], change = {}): string[] {
  const gate = lowered(rulesGate([anInput('Decay', 'number')], pairs, change))
  return findingsOf(gate, TODAY).findings.map((finding) => `${finding.kind}: ${findingWords(finding, gate.rules.map(({ path }) => path))} ${exampleWords(finding)}`.trim())
}

test.each<[string, [string, string][], RegExp]>([
  ['gap', [['Decay < 10', 'a'], ['Decay >= 20', 'b']], /^gap: No rule takes Decay \[10\.\.20\)\. Decay 1\d/],
  ['edge hole', [['Decay < 10', 'a'], ['Decay > 10', 'b']], /^edge hole: Exactly this value is taken by no rule: Decay 10\. Decay 10$/],
  ['step hole', [['Decay <= 64', 'a'], ['Decay >= 65', 'b']], /^step hole: Ranges of whole numbers leave out what lies between them: Decay \(64\.\.65\)\./],
  ['overlap', [['Decay > 10', 'a'], ['Decay > 20', 'b'], ['Decay <= 20', 'c']], /^overlap: rule 3 and rule 1 take the same records/],
  ['never reached', [['Decay > 10', 'a'], ['Decay > 20', 'b'], ['-', 'c']], /^never reached: rule 2 is never reached: rule 1 takes all its records\./],
  ['no effect', [['Decay > 10', 'a'], ['-', 'a']], /^no effect: Without rule 1 every record would get the same\./],
  ['split label', [['Decay < 10', 'a'], ['Decay < 20', 'b'], ['-', 'a']], /^split label: “a” stands on two stretches of Decay/],
  ['near-same labels', [['Decay < 10', 'Sound'], ['-', 'sound']], /^near-same labels: “Sound” and “sound” are almost the same label\./],
])('%s', (_, pairs, words) => expect(told(pairs)).toContainEqual(expect.stringMatching(words)))

test('a band is called a band, and what is not proven says so', () => {
  const gate = lowered(rulesGate([anInput('a', 'number'), anInput('b', 'number')], [['a - b > 3', 'x'], ['a - b > 5', 'y']]))
  const words = findingsOf(gate, TODAY).findings.map((finding) => findingWords(finding, ['bands.0', 'cells.1.2']))
  expect(words.join('\n')).toMatch(/cell 2\.3/)
  expect(words.join('\n')).toMatch(/\(Not proven: expressions over several inputs were taken for independent\.\)/)
})

test('every finding of every gate has words, without holes in them', () => {
  fc.assert(fc.property(fc.oneof(rulesGates(fc.constantFrom('first', 'unique')), formGates), (gate) => {
    const lowering = lower(gate)
    if (!('lowered' in lowering)) return
    for (const finding of findingsOf(lowering.lowered, TODAY).findings) {
      const words = findingWords(finding, lowering.lowered.rules.map(({ path }) => path))
      expect(words).toMatch(/^[A-Za-z“].*[.)]$/s)
      expect(words).not.toMatch(/undefined|null|““|\(\)/)
    }
  }), { numRuns: 60 })
})
