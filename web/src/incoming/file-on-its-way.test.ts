import type { FileLook, Table } from '@dime-gate/contract/table'
import { previewTable } from '@dime-gate/interchange/table/preview'
import { RequestProblem } from '../shared/api'
import { type Choice, fileOnItsWay, type FileSteps } from './file-on-its-way'

const TEXT = 'Tree,Decay\nT1,12\nT2,40\n'
const file = new File([TEXT], 'trees.csv')
const gone = () => new RequestProblem(404, { code: 'file-gone', message: 'The file is not here any more.' })
const unreachable = () => new RequestProblem(0, { code: 'unreachable', message: 'The server does not answer.' })

function lookAt(choice: Choice): FileLook {
  return { ...previewTable(new TextEncoder().encode(TEXT), true, choice), sheets: [], statistics: { records: 2, columns: [] } }
}

function steps(changes: Partial<FileSteps> = {}) {
  const did: string[] = []
  let sent = 0
  const all: FileSteps = {
    send: async () => {
      did.push('send')
      return { id: `f${++sent}`, name: file.name, size: file.size }
    },
    look: async (id, choice) => {
      did.push(`look at ${id}`)
      return lookAt(choice)
    },
    bringIn: async ({ file: id, name }) => {
      did.push(`bring in ${id} as ${name}`)
      return { id: 7 } as Table
    },
    merge: async (tableId, { file: id, isReplacing, isTrial }) => {
      did.push(`${isTrial ? 'try' : 'put'} ${id} ${isReplacing ? 'in place of' : 'into'} ${tableId}`)
      return { plan: { added: 3 }, change: null, table: { id: tableId } } as never
    },
    forget: (id) => void did.push(`forget ${id}`),
    ...changes,
  }
  return { did, all }
}

test('a file is sent once, looked at, and brought in with what was decided', async () => {
  let asked: unknown
  const { did, all } = steps({
    bringIn: async (request) => {
      asked = request
      return { id: 7 } as Table
    },
  })
  const way = fileOnItsWay(file, all)
  await way.lookAgain()
  way.edit(0, { name: ' Oak ' })
  way.edit(1, { isLeftOut: true })
  expect(way.look.value!.settings.columns.map(({ name }) => name)).toEqual([' Oak ', 'Decay'])
  expect(await way.bringIn(' Trees ')).toEqual({ id: 7 })
  expect(asked).toMatchObject({ file: 'f1', name: 'Trees', settings: { columns: [{ name: 'Oak' }, { name: 'Decay', isLeftOut: true }] } })
  expect([did, way.stage.value]).toEqual([['send', 'look at f1'], 'done'])
})

test('what was decided stays when something else is; another sheet has other columns', async () => {
  const way = fileOnItsWay(file, steps().all)
  await way.lookAgain()
  way.edit(1, { name: 'Rot', type: 'text' })
  way.choose({ dateOrder: 'month' })
  await way.lookAgain()
  expect(way.look.value!.settings).toMatchObject({ dateOrder: 'month', columns: [{ name: 'Tree' }, { name: 'Rot', type: 'text' }] })
  way.choose({ sheet: 'Other' })
  expect(way.choice.value.columns).toEqual({})
})

test('the latest choice wins, whichever answer comes first', async () => {
  const waiting: (() => void)[] = []
  const { all } = steps({ look: (_, choice) => new Promise((resolve) => waiting.push(() => resolve(lookAt(choice)))) })
  const way = fileOnItsWay(file, all)
  const first = way.lookAgain()
  await Promise.resolve().then(() => undefined)
  way.choose({ decimalMark: 'comma' })
  while (waiting.length < 2) await new Promise((resolve) => setTimeout(resolve))
  waiting.toReversed().forEach((answer) => answer())
  await first
  await new Promise((resolve) => setTimeout(resolve))
  expect(way.look.value!.settings.decimalMark).toBe('comma')
})

test('a file that the server lost is sent again, unasked', async () => {
  let isLost = false
  const { did, all } = steps()
  const look = all.look
  all.look = (id, ...rest) => {
    if (isLost && id === 'f1') return Promise.reject(gone())
    return look(id, ...rest)
  }
  const way = fileOnItsWay(file, all)
  await way.lookAgain()
  isLost = true
  way.choose({ decimalMark: 'comma' })
  while (did.length < 4) await new Promise((resolve) => setTimeout(resolve))
  await new Promise((resolve) => setTimeout(resolve))
  expect([did, way.trouble.value, way.look.value!.settings.decimalMark]).toEqual([
    ['send', 'look at f1', 'send', 'look at f2'],
    '',
    'comma',
  ])
})

test('a server that is not there is told, and all that was decided is there when it is back', async () => {
  let isAway = true
  const { did, all } = steps({
    bringIn: async ({ file: id }) => {
      if (isAway) throw unreachable()
      did.push(`bring in ${id}`)
      return { id: 7 } as Table
    },
  })
  const way = fileOnItsWay(file, all)
  await way.lookAgain()
  way.edit(0, { name: 'Oak' })
  expect(await way.bringIn('Trees')).toBeNull()
  expect([way.trouble.value, way.stage.value, way.look.value!.settings.columns[0]!.name]).toEqual([
    'The server does not answer.',
    'ready',
    'Oak',
  ])
  isAway = false
  expect(await way.bringIn('Trees')).toEqual({ id: 7 })
  expect(did.at(-1)).toBe('bring in f2')
})

test('breaking off leaves the file as it was, without a complaint', async () => {
  const { all } = steps({
    bringIn: (_, __, signal) =>
      new Promise((_resolve, reject) => signal.addEventListener('abort', () => reject(new DOMException('cancelled', 'AbortError')))),
  })
  const way = fileOnItsWay(file, all)
  await way.lookAgain()
  const made = way.bringIn('Trees')
  while (way.stage.value !== 'bringing in') await new Promise((resolve) => setTimeout(resolve))
  way.breakOff()
  expect(await made).toBeNull()
  expect([way.stage.value, way.trouble.value]).toEqual(['ready', ''])
})

test('a file that is let go of is let go of by the server too', async () => {
  const { did, all } = steps()
  const way = fileOnItsWay(file, all)
  await way.lookAgain()
  way.forget()
  await new Promise((resolve) => setTimeout(resolve))
  expect([did.at(-1), way.stage.value]).toEqual(['forget f1', 'stopped'])
})

test('a file that goes into a table is compared with it first, and again with every change, and then put into it', async () => {
  const { did, all } = steps()
  const way = fileOnItsWay(file, all, { tableId: 4, isReplacing: false })
  await way.lookAgain()
  while (way.stage.value !== 'ready' || !way.plan.value) await new Promise((resolve) => setTimeout(resolve))
  expect([did, way.plan.value]).toEqual([['send', 'look at f1', 'try f1 into 4'], { added: 3 }])
  way.aimAt({ tableId: 4, isReplacing: true })
  expect(way.plan.value).toBeNull()
  while (!way.plan.value) await new Promise((resolve) => setTimeout(resolve))
  expect(await way.bringIn('')).toEqual({ id: 4 })
  expect(did.slice(3)).toEqual(['try f1 in place of 4', 'put f1 in place of 4'])
})
