import type { Comparison, MoveReason } from '@dime-gate/contract/comparison'
import type { Run } from '@dime-gate/contract/run'
import type { RunGroups } from '@dime-gate/contract/run-groups'
import type { Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band, rulesGate } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const RECORDS = 400
const WARDS = ['Abbey', 'Castle', '', 'Quayside']
const decayAt = (record: number) => (record % 37 === 0 ? 'n/a' : record % 41 === 0 ? '' : String((record * 7) % 101))

let server: TemporaryServer
let table: Table
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Trees', ['Tree,Decay,Ward', ...Array.from({ length: RECORDS }, (_, at) => `T${at + 1},${decayAt(at + 1)},${WARDS[at % 4]}`)].join('\n'))
})
afterAll(() => server.close())

const idOf = (name: string) => table.columns.find((one) => one.name === name)!.id
const get = async <Answer>(path: string) => (await server.ask('GET', path)).body as Answer
async function gateOf(draft: Gate, inputs: object): Promise<number> {
  const { id } = (await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs } })).body as { id: number }
  await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })
  return id
}
const runOf = async (gateId: number, version = 1) => ended(server, (await keepRun(server, { gateId, version, tableId: table.id, binding: 1 })).id)
const isKept = async ({ id }: Run) => (await server.database.query('select from run_landings where run_id = $1', [id])).rowCount === 1

test('groups and comparisons say the same by the landings that are kept and by the run itself', async () => {
  const scale = (cut: string) => ({ ...plainScale('Band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' as const }, { at: cut, owner: 'below' as const }], [band('sound'), band('watch'), band('sound')]), ceiling: { at: '95', included: true } })
  const gateId = await gateOf(scale('60'), { Decay: { column: idOf('Decay') } })
  const first = await runOf(gateId)
  await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'remove records', records: [3, 7] })
  await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'add records', reading: { decimalMark: 'point', dateOrder: 'year' }, rows: [[{ column: idOf('Tree'), text: 'new' }, { column: idOf('Decay'), text: '50' }]] })
  await server.ask('PUT', `/gates/${gateId}/draft`, { draft: scale('40'), seen: 1 })
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: 2 })
  const second = await runOf(gateId, 2)
  const asked = async () => ({
    groups: await Promise.all([first, second].flatMap((run) => ['Ward', 'Decay'].map((name) => get<RunGroups>(`/runs/${run.id}/groups/${idOf(name)}`)))),
    comparison: await get<Comparison>(`/runs/${first.id}/against/${second.id}`),
    back: await get<Comparison>(`/runs/${second.id}/against/${first.id}`),
  })
  expect([await isKept(first), await isKept(second)]).toEqual([true, true])
  const kept = await asked()
  const reasons = await get<MoveReason[]>(`/runs/${first.id}/against/${second.id}/reasons`)
  await server.database.query('delete from run_landings')
  const read = await asked()
  expect(kept.groups).toEqual(read.groups)
  const inOrder = ({ stayed, moves }: Comparison) => [...stayed, ...moves].map((one) => JSON.stringify(one)).toSorted()
  expect([inOrder(kept.comparison), inOrder(kept.back)]).toEqual([inOrder(read.comparison), inOrder(read.back)])
  expect(kept.comparison.moves.some(({ from }) => from === null) && kept.comparison.moves.some(({ to }) => to === null)).toBe(true)
  const both = kept.comparison.moves.filter(({ from, to }) => from && to).reduce((sum, { records }) => sum + records, 0)
  expect(reasons.reduce((sum, { records }) => sum + records, 0)).toBe(both)
})

test('where labels are computed, they are kept by what each record got; more than can be told apart in a byte are not, and are read from the run', async () => {
  const by = (feel: string): Gate => ({ ...rulesGate([givenNumber('Decay', '%')], [['Decay >= 0', 'x']], { name: `By ${feel}` }), rules: [{ condition: 'Decay >= 0', entries: [{ feel }], note: '' }] })
  const few = await runOf(await gateOf(by('if Decay > 50 then "high" else "low"'), { Decay: { column: idOf('Decay') } }))
  const many = await runOf(await gateOf({ ...by('string(Decay) + Tree'), inputs: [givenNumber('Decay', '%'), { ...givenNumber('Tree', ''), type: 'text' }] }, { Decay: { column: idOf('Decay') }, Tree: { column: idOf('Tree') } }))
  expect([few.state, many.state, await isKept(few), await isKept(many)]).toEqual(['done', 'done', true, false])
  const kept = await get<Comparison>(`/runs/${few.id}/against/${few.id}`)
  expect(kept.stayed.map(({ at }) => (at.kind === 'label' ? at.label : at.kind)).toSorted()).toEqual(['held', 'high', 'low'])
  expect((await get<RunGroups>(`/runs/${many.id}/groups/${idOf('Ward')}`)).groups.reduce((sum, { records }) => sum + records, 0)).toBe(many.counts!.records)
})
