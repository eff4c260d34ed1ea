import type { Gate } from '../gate/document'
import { anInput, rulesGate } from '../testing/a-gate'
import { fixWords } from './fix-words'
import type { Fix } from './fixes'

const rules = rulesGate([anInput('Score', 'number')], [['Score > 10', 'a'], ['-', 'b']])
const match: Gate = { schema: 1, form: 'match', name: 'Leaf', on: 'Species', inputs: [anInput('Species', 'text')], outcomes: [], lines: [], otherwise: null, folds: false }

test.each<[Gate, Fix, string]>([
  [rules, { kind: 'move rule', rule: 3, to: 1 }, 'Move rule 4 up, before rule 2.'],
  [rules, { kind: 'move rule', rule: 0, to: 2 }, 'Move rule 1 down, behind rule 3.'],
  [match, { kind: 'remove rule', rule: 1 }, 'Remove line 2.'],
  [rules, { kind: 'change condition', rule: 1, condition: 'Score >= 50' }, 'Let rule 2 take Score >= 50.'],
  [rules, { kind: 'add rule', condition: 'Score in (49..50)', like: 0 }, 'Add a last rule for Score in (49..50), with the results of rule 1.'],
  [rules, { kind: 'rename labels', from: ['fell', 'FELL'], to: 'Fell' }, 'Call “fell” and “FELL” “Fell”.'],
  [rules, { kind: 'hold on blanks', input: 'Score' }, 'Say that a blank Score holds its records, as it does now.'],
])('%#: a fix is told before it is taken', (gate, fix, words) => expect(fixWords(gate, fix)).toBe(words))
