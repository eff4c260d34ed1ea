import { byHandWords, countsByHand, handOf, labelByHand } from './by-hand'

const LABELS = [{ label: 'Sound', records: 5 }, { label: 'Weak', records: 2 }]
const from = (label: string | null, outcomes: Record<string, string | null>) => ({ was: label === null ? ({ kind: 'held' } as const) : ({ kind: 'label', label } as const), outcomes })

test('a label loses what was given another by hand, and gains what was given it; held records come to one', () => {
  const counts = countsByHand(LABELS, [from('Sound', { Label: 'Weak' }), from(null, { Label: 'Weak' }), from('Sound', { Label: 'Sound' })], 'Label')
  expect(counts).toEqual([{ label: 'Sound', gate: 5, with: 4 }, { label: 'Weak', gate: 2, with: 4 }])
  expect(byHandWords(counts)).toBe('Sound 5 → 4 and Weak 2 → 4')
})

test('a label that the gate gives nobody is told too; another outcome moves no count', () => {
  expect(countsByHand(LABELS, [from('Weak', { Label: 'Ask' })], 'Label')).toEqual([{ label: 'Weak', gate: 2, with: 1 }, { label: 'Ask', gate: 0, with: 1 }])
  expect(countsByHand(LABELS, [from('Weak', { Points: '3' })], 'Label')).toEqual([])
  expect([labelByHand({ outcomes: { Points: '3' } }, 'Label'), labelByHand({ outcomes: { Label: null } }, 'Label')]).toEqual([undefined, null])
  expect(byHandWords([])).toBe('no count is another')
})

test('a record says what it was given, by whom and why; where only another outcome was given its label stands', () => {
  expect(handOf({ record: 7, outcomes: { Points: '1', Label: 'Weak' }, by: 'Ilo', note: 'leans' }, 'Label')).toEqual([[7, { label: 'Weak', why: 'by hand, Ilo: leans' }]])
  expect(handOf({ record: 7, outcomes: { Points: '1' }, by: '', note: 'leans' }, 'Label')).toEqual([])
})
