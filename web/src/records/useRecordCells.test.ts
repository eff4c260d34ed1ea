import type { Cell } from '@dime-gate/contract/table'
import { aServer } from '../testing/a-server'
import { useRecordCells } from './useRecordCells'

/** A server whose only table has one column, with a text for each record. */
function on(texts: Record<number, string>) {
  const asked = aServer(({ body }) => (body as { records: number[] }).records.map((record) => ({ record, cells: [[texts[record]!, null]] })))
  const kept = useRecordCells(4)
  return { ...kept, asked: () => asked.map(({ body }) => (body as { records: number[] }).records) }
}
const told = (cells: ReadonlyMap<number, Cell[]>) => [...cells].map(([record, [cell]]) => [record, cell![0]])

test('what is here is not fetched again; what is on its way is waited for', async () => {
  const { cells, want, asked } = on({ 1: 'oak', 2: 'ash', 3: 'elm' })
  await Promise.all([want([1, 2]), want([2, 3])])
  await want([1, 2, 3])
  expect([told(cells), asked()]).toEqual([[[1, 'oak'], [2, 'ash'], [3, 'elm']], [[1, 2], [3]]])
})

test('what may be another by now stays until it is fetched again, and is the very same where it is', async () => {
  const texts = { 1: 'oak', 2: 'ash' }
  const { cells, want, renew, asked } = on(texts)
  await want([1, 2])
  const oak = cells.get(1)
  texts[2] = 'lime'
  renew()
  expect(told(cells)).toEqual([[1, 'oak'], [2, 'ash']])
  await want([1, 2])
  expect([told(cells), asked()]).toEqual([[[1, 'oak'], [2, 'lime']], [[1, 2], [1, 2]]])
  expect(cells.get(1)).toBe(oak)
})

test('an answer to what was asked for before is not taken for what is', async () => {
  const texts = { 1: 'oak' }
  const { cells, want, renew, forget } = on(texts)
  const early = want([1])
  renew()
  texts[1] = 'lime'
  await want([1])
  await early
  expect(told(cells)).toEqual([[1, 'lime']])
  forget()
  expect(told(cells)).toEqual([])
  await want([1])
  expect(told(cells)).toEqual([[1, 'lime']])
})
