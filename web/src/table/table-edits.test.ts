import type { ChangeAnswer, ChangeRequest, Conflict } from '@dime-gate/contract/change'
import { RequestProblem } from '../shared/api'
import { cellKey, useTableEdits } from './table-edits'

const reading = { decimalMark: 'point', dateOrder: 'day' } as const
const set = (text: string): ChangeRequest & { kind: 'values' } => ({
  kind: 'values',
  reading,
  cells: [{ record: 1, column: 2, text, seen: ['1', null] }],
})

/** A server that gives versions, and quarrels where it is told to. */
function edits(conflicts: Conflict[][] = []) {
  const did: string[] = []
  let version = 1
  const answer = (what: string): ChangeAnswer => {
    did.push(what)
    return { conflicts: [], change: { version: ++version } as ChangeAnswer['change'], table: {} as ChangeAnswer['table'], records: [] }
  }
  const told: number[] = []
  const made = useTableEdits(
    {
      change: async (request) => {
        const found = conflicts.shift() ?? []
        if (found.length > 0) return { conflicts: found, change: null, table: {} as ChangeAnswer['table'], records: [] }
        const [cell] = (request as ReturnType<typeof set>).cells
        if (cell!.text === 'wrong') throw new Error('That is refused.')
        // What was typed first takes longer.
        await new Promise((resolve) => setTimeout(resolve, cell!.text === 'slow' ? 20 : 0))
        return answer(`set ${cell!.text} over ${String(cell!.seen[0])}`)
      },
      undo: async (undone) => answer(`undo ${undone}`),
      back: () => Promise.resolve(),
    },
    ({ change }) => told.push(change!.version),
  )
  return { ...made, did, told }
}

test('changes are kept in the order in which they were made', async () => {
  const { change, did, told, pending } = edits()
  const all = Promise.all([change(set('slow')), change(set('quick'))])
  expect(pending.value).toBe(2)
  expect(await all).toEqual([true, true])
  expect([did, told, pending.value]).toEqual([['set slow over 1', 'set quick over 1'], [2, 3], 0])
})

test('they are taken back from the last on, and done again; a new one ends the doing again', async () => {
  const { change, undo, redo, did, past, future } = edits()
  await change(set('a'))
  await change(set('b'))
  await undo()
  await undo()
  expect([did.slice(2), past.value, future.value]).toEqual([['undo 3', 'undo 2'], [], [4, 5]])
  await redo()
  expect([did.at(-1), past.value, future.value]).toEqual(['undo 5', [6], [4]])
  await change(set('c'))
  expect([past.value, future.value]).toEqual([[6, 7], []])
  expect([await redo(), did.length]).toEqual([false, 6])
})

test('any change is taken back by its version, and that is one step back in turn', async () => {
  const { takeBack, undo, did, past } = edits()
  await takeBack(9)
  await undo()
  expect([did, past.value]).toEqual([['undo 9', 'undo 2'], []])
})

test('what is refused says why, and those behind it go on', async () => {
  const { change, trouble, past } = edits()
  const [wrong, right] = [change(set('wrong')), change(set('right'))]
  expect([await wrong, trouble.value]).toEqual([false, 'That is refused.'])
  expect([await right, trouble.value, past.value]).toEqual([true, 'That is refused.', [2]])
  await change(set('next'))
  expect(trouble.value).toBe('')
})

test('a value that was changed elsewhere is shown, and then mine goes over it, or theirs stays', async () => {
  const theirs: Conflict[] = [{ record: 1, column: 2, now: ['5', null] }]
  const first = edits([theirs])
  expect(await first.change(set('3'))).toBe(false)
  expect(first.quarrel.value).toEqual({ request: set('3'), conflicts: theirs })
  expect(await first.settle(true)).toBe(true)
  expect([first.did, first.quarrel.value]).toEqual([['set 3 over 5'], null])
  const second = edits([theirs])
  await second.change(set('3'))
  await second.settle(false)
  expect([second.did, second.quarrel.value, second.past.value]).toEqual([[], null, []])
})

describe('while the server does not answer', () => {
  const away = new RequestProblem(0, { code: 'unreachable', message: 'away' })

  /** A server that goes away so many times before it answers, and comes back when it is told to. */
  function leaving(times: number, failure: Error = away) {
    const keys: string[] = []
    let comesBack: () => void = () => undefined
    const done: number[] = []
    const made = useTableEdits(
      {
        change: async (_, key) => {
          keys.push(key)
          if (keys.length <= times) throw failure
          return { conflicts: [], change: { version: 2 } as ChangeAnswer['change'], table: {} as ChangeAnswer['table'], records: [] }
        },
        undo: () => Promise.reject(new Error('not asked for')),
        back: () => new Promise((resolve) => (comesBack = resolve)),
      },
      ({ change }) => done.push(change!.version),
    )
    return { ...made, keys, done, comeBack: () => comesBack() }
  }
  const soon = () => new Promise((resolve) => setTimeout(resolve, 5))

  test('what was typed waits, is shown as what it is, and is asked for again under one key', async () => {
    const { change, isWaiting, unkept, pending, keys, done, comeBack } = leaving(2)
    const kept = change(set('7'))
    for (let times = 0; times < 2; times++) {
      await soon()
      expect([isWaiting.value, pending.value, [...unkept.value]]).toEqual([true, 1, [[cellKey(1, 2), '7']]])
      comeBack()
    }
    expect(await kept).toBe(true)
    expect([isWaiting.value, pending.value, unkept.value.size, done]).toEqual([false, 0, 0, [2]])
    expect([keys.length, new Set(keys).size]).toEqual([3, 1])
  })

  test('what is refused does not wait', async () => {
    const { change, isWaiting, unkept, trouble } = leaving(1, new RequestProblem(404, { code: 'not-found', message: 'It is gone.' }))
    expect(await change(set('7'))).toBe(false)
    expect([isWaiting.value, unkept.value.size, trouble.value]).toEqual([false, 0, 'It is gone.'])
  })
})
