import { anInput } from '../testing/a-gate'
import { inputTypes, readCondition } from './read-condition'
import { valuesTest } from './values-test'

test.each([
  ['one text', anInput('Stands by', 'text'), ['play "area"'], 'Stands by = "play \\"area\\""'],
  ['several', anInput('Species', 'text'), ['Oak', 'Elm'], 'Species in ("Oak", "Elm")'],
  ['numbers', anInput('Code', 'number'), ['1', '-2.50'], 'Code in (1, -2.50)'],
  ['a date', anInput('Due', 'date'), ['2026-03-02'], 'Due = @"2026-03-02"'],
  ['nothing', anInput('Species', 'text'), [], 'false'],
])('%s', (_, input, values, expected) => {
  expect(valuesTest(input, values)).toBe(expected)
  expect('condition' in readCondition(expected, inputTypes([input]))).toBe(true)
})
