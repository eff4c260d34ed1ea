import { conditionOf } from '@dime-gate/core/rule/condition'
import { kindOfSubject, readCondition } from '@dime-gate/core/rule/read-condition'
import { relationsOf, sentenceOf } from '@dime-gate/core/rule/sentence'
import type { Type } from '@dime-gate/core/expression/type'
import { anInput } from '@dime-gate/core/testing/a-gate'
import { conditionWordsOf, relationChoice, sentenceParts, sentenceWords } from './sentence-words'

const TYPES = new Map<string, Type>([
  ['Decay', 'number'],
  ['Lean', 'number'],
  ['Stands by', 'text'],
  ['Next due', 'date'],
  ['Ticket', 'boolean'],
])
function said(text: string) {
  const read = readCondition(text, TYPES)
  if ('problem' in read) throw new Error(text)
  return sentenceOf(read.condition, kindOfSubject(TYPES))!
}

test.each([
  ['Decay >= 25', '%', 'Decay at least 25\u00a0%'],
  ['Lean > 15', '°', 'Lean above 15°'],
  ['Decay in [50..64)', '%', 'Decay from 50 to under 64\u00a0%'],
  ['not(Decay in (50..64])', '', 'Decay not above 50 to 64'],
  ['Stands by in ("school", "play area")', '', 'Stands by is one of school, play area'],
  ['Stands by = ""', '', 'Stands by is nothing'],
  ['Next due < today()', '', 'Next due before the as-of date'],
  ['Next due in [today() - @"P365D"..today()]', '', 'Next due within 365 days before the as-of date'],
  ['Next due >= @"2026-03-02"', '', 'Next due on or after 2 Mar 2026'],
  ['not(Ticket)', '', 'Ticket is no'],
  ['Decay = null', '%', 'Decay is blank'],
])('%s is told in words', (text, unit, words) => expect(sentenceWords(said(text), unit)).toBe(words))

test('a whole condition is put in words', () => {
  const words = conditionWordsOf({
    inputs: [anInput('Decay', 'number', { unit: '%' }), anInput('Stands by', 'text'), anInput('Lean', 'number', { unit: '°' })],
    conditions: [{ id: 'a', name: 'Weak stem', feel: 'Decay > 40' }],
  })
  expect(words('Decay >= 25 and (Stands by = "school" or Lean > 15)')).toBe(
    'Decay at least 25\u00a0% and either Stands by is school or Lean above 15°',
  )
  expect(words('not(Stands by in ("road", "verge")) and Decay > Lean')).toBe('Stands by is none of road, verge and Decay > Lean')
  expect(words('Weak stem or Decay > 25 and Lean > 15')).toBe('Weak stem holds or both Decay above 25\u00a0% and Lean above 15°')
  expect(words('Weak stem or Decay > 25 and Lean > 15 and Stands by = "road"')).toContain('or all of Decay above')
  expect(words('Weak stem and Lean > 15')).toBe('Weak stem holds and Lean above 15°')
  expect(words('not(Weak stem)')).toBe('Weak stem does not hold')
  expect(words('what ever')).toBe('what ever')
})

test('each part can be pointed at', () => {
  expect(sentenceParts(said('Decay in [50..64)'), '%').map(({ part }) => part)).toEqual(['subject', 'relation', 'value 0', null, 'value 1'])
  expect(sentenceParts(said('Stands by in ("a", "b")'), '').map(({ part }) => part)).toEqual(['subject', 'relation', 'value 0', 'value 1'])
})

test('no two relations of one kind are called alike', () => {
  for (const kind of ['number', 'text', 'date', 'boolean'] as const) {
    const words = relationsOf(kind).map((relation) => relationChoice(relation, kind))
    expect(new Set(words).size).toBe(words.length)
  }
})

test('what is read from nothing takes everything', () => {
  expect([readCondition(' ', TYPES), readCondition('-', TYPES)]).toEqual([
    { condition: conditionOf({ kind: 'boolean', value: true, span: { from: 0, to: 0 } }) },
    { condition: { kind: 'all', of: [] } },
  ])
  expect(readCondition('Lean > "x"', TYPES)).toHaveProperty('problem')
  expect(readCondition('Lean +', TYPES)).toHaveProperty('problem')
})
