import type { Column } from '@dime-gate/contract/table'
import { hiddenToo, movedColumn, NO_CHOICE, rememberChoice, rememberedChoice, shownAgain, shownColumns, widened } from './column-choice'

const column = (id: number, isIdentity = false) => ({ id, isIdentity }) as Column
const columns = [column(1), column(2), column(3, true), column(4)]
const ids = (choice = NO_CHOICE) => shownColumns(columns, choice).map(({ id }) => id)

function storage() {
  const kept = new Map<string, string>()
  return { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => void kept.set(key, value) }
}

test('who the record is comes first, the rest in the order of the table', () => expect(ids()).toEqual([3, 1, 2, 4]))

test('hidden ones are left out until they are shown again', () => {
  const choice = hiddenToo(NO_CHOICE, 1)
  expect(ids(choice)).toEqual([3, 2, 4])
  expect(ids(shownAgain(choice, 1))).toEqual([3, 1, 2, 4])
})

test('one is moved past its neighbour, and no further than there are any; those that come later stand behind', () => {
  const choice = movedColumn(columns, NO_CHOICE, 1, 1)
  expect(ids(choice)).toEqual([3, 2, 1, 4])
  expect(movedColumn(columns, choice, 4, 1)).toBe(choice)
  expect(shownColumns([...columns, column(9)], choice).map(({ id }) => id)).toEqual([3, 2, 1, 4, 9])
})

test('widths stay within what can be read', () => {
  expect([widened(NO_CHOICE, 1, 10), widened(NO_CHOICE, 1, 9999), widened(NO_CHOICE, 1, 200.4)].map(({ widths }) => widths[1])).toEqual([
    56, 800, 200,
  ])
})

test('a choice is remembered table by table; what is no choice is none', () => {
  const kept = storage()
  rememberChoice(7, hiddenToo(NO_CHOICE, 2), kept)
  expect([rememberedChoice(7, kept).hidden, rememberedChoice(8, kept)]).toEqual([[2], NO_CHOICE])
  kept.setItem('columns of table 7', '{"order": "all"}')
  expect(rememberedChoice(7, kept)).toEqual(NO_CHOICE)
  expect(() =>
    rememberChoice(7, NO_CHOICE, {
      setItem: () => {
        throw new Error('full')
      },
    }),
  ).not.toThrow()
})
