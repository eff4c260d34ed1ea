import type { TableChangeMade } from '@dime-gate/contract/change'
import { changeWords } from './change-words'

const made = (more: Partial<TableChangeMade>): TableChangeMade => ({
  version: 2,
  kind: 'values',
  records: 1,
  columns: ['Decay'],
  undoes: null,
  changedAt: '',
  ...more,
})

test('each change is told by what it met', () => {
  expect(
    [
      made({}),
      made({ columns: ['A', 'B', 'C', 'D', 'E'], records: 12 }),
      made({ kind: 'fill', records: 1240 }),
      made({ kind: 'remove records', columns: [], records: 2 }),
      made({ kind: 'add column', records: 0 }),
      made({ kind: 'append', records: 3 }),
      made({ undoes: 4 }),
    ].map(changeWords),
  ).toEqual([
    'Decay changed in 1 record',
    'A, B, C and 2 more changed in 12 records',
    'Decay filled in 1,240 records',
    '2 records removed',
    'Decay added',
    'A file added to 3 records',
    'Version 4 taken back',
  ])
})
