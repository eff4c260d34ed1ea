import type { Slip, SlipColumn, SlipHead } from '@dime-gate/contract/slip'
import type { Gate, Label } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { anInput, band, rulesGate } from '@dime-gate/core/testing/a-gate'
import { triedWords } from '../trying/tried-words'
import { printedIn, printQuery } from './slip-address'
import { firstSentence, sentenceNames, slipTeller } from './slip-words'

const column = (id: number, name: string, change: Partial<SlipColumn> = {}): SlipColumn => ({ id, name, unit: '', type: 'number', isIdentity: false, isComputed: false, ...change })
const COLUMNS = [column(1, 'Trainee', { type: 'text', isIdentity: true }), column(2, 'Mark', { unit: '%' })]
const ranked = (...values: string[]): Label[] => values.map((value, rank) => ({ value, colour: '#7fa99a', mark: 'disc', rank }))
const scale = plainScale('Award', givenNumber('Mark', '%'), [{ at: '50', owner: 'above' }, { at: '70', owner: 'above' }], [band('Fail'), band('Pass'), band('Merit')])
const AWARD: Gate = { ...scale, outcomes: [{ name: 'Award', type: 'text', labels: ranked('Fail', 'Pass', 'Merit') }] }
const head = (gate: Gate, change: Partial<SlipHead> = {}): SlipHead => ({ gate, feeding: [], inputs: { Mark: { column: 2 } }, asOf: '2026-03-02', tableName: 'Course', sentence: '', columns: COLUMNS, ...change })
const slip = (mark: [string | null, string | null], change: Partial<Slip> = {}): Slip => ({ record: 7, cells: [['Ilo Fenby', null], mark], status: 'labelled', outcomes: ['Pass'], byHand: null, ...change })
const told = (of: SlipHead, one: Slip) => slipTeller(of, [one])(0)

test('who, label, what was looked at with its unit, why, and what the next above takes', () => {
  expect(told(head(AWARD), slip(['62.5', null]))).toMatchObject({
    who: [{ name: 'Trainee', value: 'Ilo Fenby' }], label: 'Pass', look: { value: 'Pass' }, remarks: [],
    values: [{ name: 'Mark', value: '62.5', unit: '%' }], because: 'Mark is 62.5 %, which lies in 50 to under 70 %: Pass.',
    next: 'For Merit, the next above, it would have needed Mark 70 % and over (7.5 more).', file: 'Award, Ilo Fenby',
  })
})

test('of the highest there is no next, and none of what was given by hand', () => {
  expect(told(head(AWARD), slip(['80', null], { outcomes: ['Merit'] })).next).toBe('')
  expect(told(head(AWARD), slip(['62.5', null], { byHand: { Award: 'Merit' } }))).toMatchObject({ label: 'Merit', next: '', remarks: ['Given by hand. By its values alone it would be Pass.'] })
})

test('without a label it says what is missing, or could not be read', () => {
  expect(told(head(AWARD), slip([null, null], { status: 'held', outcomes: [null] }))).toMatchObject({ label: null, remarks: ['There is no label yet: Mark is missing, and could change it.'], values: [{ value: 'missing' }], next: '' })
  expect(told(head(AWARD), slip([null, 'n/a'], { status: 'held', outcomes: [null] })).values).toEqual([{ name: 'Mark', value: '“n/a”, which cannot be read', unit: '' }])
  expect(told(head({ ...AWARD, floor: { at: '0', included: true } } as Gate), slip(['-3', null], { status: 'unplaced', outcomes: [null] })).remarks).toEqual(['Nothing that the gate says takes this record, so it gives no label.'])
})

test('what falls short of a cut never reads as if it had reached it', () => {
  const { values, next } = told(head(AWARD), slip(['69.999996', null]))
  expect(values[0]!.value).toBe('69.999996')
  expect(next).toContain('(0.0001 more)')
  expect(told(head(AWARD), slip(['62.3333333333', null])).values[0]!.value).toBe('62.3333')
})

test('the sentence of the gate has its label, its figure and who it is put in; a name that stands for nothing stays', () => {
  expect(told(head(AWARD, { sentence: '{Trainee}: {Award}, with {Mark} %. {Nobody}' }), slip(['62.5', null])).sentence).toBe('Ilo Fenby: Pass, with 62.5 %. {Nobody}')
  expect(told(head(AWARD, { sentence: '{Award}.' }), slip(['62.5', null], { byHand: { Award: 'Merit' } })).sentence).toBe('Merit.')
  expect(told(head(AWARD, { sentence: '{Award}.' }), slip([null, null], { status: 'held', outcomes: [null] })).sentence).toBe('')
  expect(sentenceNames(head(AWARD))).toEqual(['Award', 'Mark', 'Trainee'])
  expect(firstSentence(head(AWARD))).toBe('{Award}, with Mark {Mark} %.')
})

test('rules are told test by test, with what each saw', () => {
  const gate = rulesGate([anInput('Mark', 'number'), anInput('Drill', 'boolean')], [['Mark >= 70 and Drill', 'Merit']], { otherwise: [{ is: 'Pass' }] })
  const words = told(head(gate, { columns: [...COLUMNS, column(3, 'Drill', { type: 'boolean' })], inputs: { Mark: { column: 2 }, Drill: { column: 3 } } }), slip(['80', null], { cells: [['Ilo Fenby', null], ['80', null], ['false', null]], status: 'otherwise' }))
  expect(words.steps.map(({ verdict, tests }) => [verdict, tests.map((one) => [one.verdict, one.remark])])).toEqual([['false', [['true', '80, 10 past'], ['false', 'no']]]])
  expect(words.because).toBe('None of these holds.')
  expect(words.values.map(({ value }) => value)).toEqual(['80', 'no'])
})

test('many are told as each alone is', () => {
  const some = ['10', '49.9', '50', '71'].map((mark) => slip([mark, null]))
  const tell = slipTeller(head(AWARD), some)
  expect(some.map((_, at) => tell(at))).toEqual(some.map((one) => told(head(AWARD), one)))
})

test('values of one’s own come to what a record with them gets', () => {
  expect(triedWords({ gate: AWARD, feeding: [], asOf: '2026-03-02', endsOn: '2026-04-01' }, { Mark: '55' })).toMatchObject({ label: 'Pass', because: 'Mark is 55 %, which lies in 50 to under 70 %: Pass.' })
  expect(triedWords({ gate: AWARD, feeding: [], asOf: '2026-03-02', endsOn: '2026-04-01' }, { Mark: 'many' })).toMatchObject({ label: null, values: [{ value: '“many”, which cannot be read' }] })
})

test('whose slips are printed stands in the address, and comes back from it', () => {
  for (const asked of [{ label: null, records: null }, { label: 'Merit & more', records: null }, { label: null, records: [3, 9] }]) {
    expect(printedIn(Object.fromEntries(new URLSearchParams(printQuery(asked, 'letter'))))).toEqual(asked)
  }
  expect(printedIn({ records: ['3', '9'] })).toEqual({ label: null, records: [3, 9] })
  expect(printedIn({ records: '1,x,-2' })).toEqual({ label: null, records: [1] })
})
