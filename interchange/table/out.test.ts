import { headOf, headsOf, type OutColumn } from './out'

const column = (name: string, unit = '', fullMarks: string | null = null): OutColumn => ({
  name,
  unit,
  fullMarks,
  type: 'number',
  isIdentity: false,
})

test('a head says unit or full marks where they are read from it again, and the name alone where they would not be', () => {
  expect([
    headOf(column('Trunk', 'cm')),
    headOf(column('Mark', '', '5')),
    headOf(column('Tree')),
    headOf(column('Odd', 'a(b')),
    headOf(column('Long', 'metres a second squared')),
    headOf(column('Odd', 'out of 7')),
  ]).toEqual(['Trunk (cm)', 'Mark (out of 5)', 'Tree', 'Odd', 'Long', 'Odd'])
})

test('heads that would be alike are numbered', () =>
  expect(headsOf([column('A', 'cm'), column('A (cm)'), column('A (cm) 2')])).toEqual(['A (cm)', 'A (cm) 2', 'A (cm) 2 2']))
