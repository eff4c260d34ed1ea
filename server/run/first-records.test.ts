import type { Run } from '@dime-gate/contract/run'
import { listedRecordsSchema } from '@dime-gate/contract/run-records'
import type { Tray } from '@dime-gate/core/result/tray'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

/** More than are looked through at first, and the rare ones far behind. */
const RECORDS = 6000
const decayAt = (record: number) => (record === 5500 ? 'n/a' : record > 5990 ? '90' : String(record % 20))

let server: TemporaryServer
let run: Run
beforeAll(async () => {
  server = await temporaryServer()
  const table = await bringIn(server, 'Trees', ['Tree,Decay', ...Array.from({ length: RECORDS }, (_, at) => `T${at + 1},${decayAt(at + 1)}`)].join('\n'))
  const draft = plainScale('Band', givenNumber('Decay', '%'), [{ at: '10', owner: 'above' }, { at: '50', owner: 'above' }], [band('sound'), band('watch'), band('weak')])
  const { id } = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Decay: { column: table.columns[1]!.id } } } })).body as { id: number }
  await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })
  run = await ended(server, (await keepRun(server, { gateId: id, version: 1, tableId: table.id, binding: 1 })).id)
})
afterAll(() => server.close())

const first = async (tray: Tray, count: number) => listedRecordsSchema.parse((await server.ask('POST', `/runs/${run.id}/first-records`, { tray, count })).body)

test('the first of all, as many as are asked for, each with what it got and why to look at it', async () => {
  expect(await first({ kind: 'all' }, 2)).toEqual([
    { record: 1, status: 'labelled', rule: 0, label: 'sound', reasons: [], computed: [], highlights: [] },
    { record: 2, status: 'labelled', rule: 0, label: 'sound', reasons: [], computed: [], highlights: [] },
  ])
  expect(await first({ kind: 'unreadable' }, 5)).toMatchObject([{ record: 5500, status: 'held', label: null, reasons: [{ kind: 'unreadable', input: 'Decay', text: 'n/a' }] }])
})

test('those that lie far behind are found, fewer than were asked for where there are no more, and none where there are none', async () => {
  const records = async (tray: Tray, count: number) => (await first(tray, count)).map(({ record }) => record)
  const where = (isMeant: (record: number) => boolean) => Array.from({ length: RECORDS }, (_, at) => at + 1).filter(isMeant)
  expect(await records({ kind: 'label', label: 'weak' }, 4)).toEqual([5991, 5992, 5993, 5994])
  expect(await records({ kind: 'label', label: 'weak' }, 60)).toEqual(where((record) => record > 5990))
  expect(await records({ kind: 'exceptions' }, 200)).toEqual(where((record) => decayAt(record) === '10' || record === 5500).slice(0, 200))
  expect(await records({ kind: 'label', label: 'nothing' }, 60)).toEqual([])
})

test('a tray that takes all records to tell is refused, and so is a run that is not there', async () => {
  expect((await server.ask('POST', `/runs/${run.id}/first-records`, { tray: { kind: 'highlighted', name: 'x' }, count: 5 })).status).toBe(400)
  expect((await server.ask('POST', '/runs/99999/first-records', { tray: { kind: 'all' }, count: 5 })).status).toBe(404)
})
