import { renamedIn } from './rename'

const NAMES = ['Module 1', 'Module 10', 'Modules', 'all Modules', 'item']

test.each([
  ['Module 1 + Module 10', 'First + Module 10'],
  ['2*Module 1', '2 * First'],
  ['Module 10', 'Module 10'],
  ['for Module 1 in Modules return Module 1', 'for Module 1 in Modules return Module 1'],
  ['mean(', 'mean('],
])('%s becomes %s', (feel, expected) => {
  expect(renamedIn(feel, NAMES, new Map([['Module 1', 'First']]))).toBe(expected)
})

test('a set is renamed with its whole', () => {
  expect(
    renamedIn(
      'mean(Modules) - mean(all Modules)',
      NAMES,
      new Map([
        ['Modules', 'Marks'],
        ['all Modules', 'all Marks'],
      ]),
    ),
  ).toBe('mean(Marks) - mean(all Marks)')
})
