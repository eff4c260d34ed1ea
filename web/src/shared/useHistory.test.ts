import { useHistory } from './useHistory'

function begun() {
  const history = useHistory<string>()
  history.begin('a')
  return history
}
const told = ({ past, present, future }: ReturnType<typeof begun>) => [past.value, present.value, future.value]

test('every change can be taken back, and made again', () => {
  const history = begun()
  history.change('b')
  history.change('c')
  expect(told(history)).toEqual([['a', 'b'], 'c', []])
  expect([history.undo(), history.undo(), history.undo()]).toEqual([true, true, false])
  expect(told(history)).toEqual([[], 'a', ['b', 'c']])
  expect([history.redo(), history.redo(), history.redo()]).toEqual([true, true, false])
  expect(told(history)).toEqual([['a', 'b'], 'c', []])
})

test('a change after an undo ends what could be made again', () => {
  const history = begun()
  history.change('b')
  history.undo()
  history.change('c')
  expect(told(history)).toEqual([['a'], 'c', []])
})

test('the steps of one drag are undone as one; another drag is another step', () => {
  const history = begun()
  for (const state of ['b', 'c', 'd']) history.change(state, 'drag')
  history.endStep()
  history.change('e', 'drag')
  expect(told(history)).toEqual([['a', 'd'], 'e', []])
})

test('what is begun anew has no past', () => {
  const history = begun()
  history.change('b', 'drag')
  history.begin('x')
  history.change('y', 'drag')
  expect(told(history)).toEqual([['x'], 'y', []])
})
