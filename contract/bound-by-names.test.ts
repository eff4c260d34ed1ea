import { anInput } from '@dime-gate/core/testing/a-gate'
import { boundByNames } from './bound-by-names'

const column = (id: number, name: string, type: 'number' | 'percent' | 'text') => ({ id, name, type })

test('columns stand for the inputs that are named as they are, where they are of their kind', () => {
  const inputs = [anInput('Decay', 'number'), anInput('Stands by', 'text'), anInput('Lean', 'number'), anInput('Trunk', 'number'), anInput('Modules', 'number', { isSet: true }), anInput('Ratio', 'number', { source: { kind: 'figure', feel: 'Decay' } })]
  const columns = [column(1, 'decay ', 'percent'), column(2, 'Stands by', 'text'), column(3, 'Lean', 'text'), column(5, 'Modules', 'number'), column(6, 'Ratio', 'number')]
  expect(boundByNames(inputs, columns, [])).toEqual({ Decay: { column: 1 }, 'Stands by': { column: 2 } })
})

test('a set of the table stands for the set that is named as it is', () => {
  expect(boundByNames([anInput('Modules', 'number', { isSet: true }), anInput('Marks', 'number')], [], [{ name: ' modules' }, { name: 'Marks' }])).toEqual({ Modules: { set: ' modules' } })
})
