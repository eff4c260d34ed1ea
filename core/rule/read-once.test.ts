import type { Gate, Input } from '../gate/document'
import { givenNumber } from '../gate/scale-gate'
import { lower } from './lower'

const input = (name: string, type: Input['type'], change: Partial<Input> = {}): Input => ({ ...givenNumber(name, ''), type, ...change })
const gate = (inputs: Input[], condition: string): Gate => ({
  schema: 1, form: 'rules', name: 'Read', hitPolicy: 'first', inputs, outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  rules: [{ condition, entries: [{ is: 'a' }], note: '' }], otherwise: null,
})
const codes = (one: ReturnType<typeof lower>) => ('problems' in one ? one.problems.map(({ code, problem }) => problem?.code ?? code) : [])

test('a text that was read before is the same tree again', () => {
  const [first, second] = [0, 1].map(() => lower(gate([input('Score', 'number')], 'Score >= 50')))
  expect('lowered' in first! && 'lowered' in second! && first.lowered.rules[0]!.condition === second.lowered.rules[0]!.condition).toBe(true)
})

test('the same text means something else with inputs of other types, names or sets', () => {
  const text = 'Score >= 50'
  expect(codes(lower(gate([input('Score', 'number')], text)))).toEqual([])
  expect(codes(lower(gate([input('Score', 'text')], text)))).toEqual(['type-clash'])
  expect(codes(lower(gate([input('Scores', 'number')], text)))).toEqual(['unknown-name'])
  expect(codes(lower(gate([input('Score', 'number', { isSet: true })], text)))).toContain('type-clash')
  expect(codes(lower(gate([input('Score', 'number')], text)))).toEqual([])
})

test('a named condition is read as it is now', () => {
  const library = (feel: string) => ({ gates: [], conditions: [{ name: 'good', feel }] })
  const texts = ['Score >= 50', 'Score >= 60', 'Score >= 50'].map((feel) => {
    const found = lower(gate([input('Score', 'number')], 'good'), library(feel))
    return 'lowered' in found && found.lowered.rules[0]!.condition.kind === 'test' ? found.lowered.rules[0]!.condition.text : found
  })
  expect(texts).toEqual(['Score >= 50', 'Score >= 60', 'Score >= 50'])
})

test('an entry may be what a condition may not', () => {
  const computing = (condition: string, feel: string): Gate => ({ ...(gate([input('Score', 'number')], condition) as Extract<Gate, { form: 'rules' }>), outcomes: [{ name: 'Points', type: 'number', labels: [] }], rules: [{ condition, entries: [{ feel }], note: '' }] })
  expect(codes(lower(computing('Score > 1', 'Score')))).toEqual([])
  expect(codes(lower(computing('Score', 'Score')))).toEqual(['not-a-condition'])
  expect(codes(lower(computing('Score > 1', 'Score')))).toEqual([])
})
