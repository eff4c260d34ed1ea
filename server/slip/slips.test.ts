import type { Link, LinkedGate, LinkedSlip, Slips } from '@dime-gate/contract/slip'
import type { Run } from '@dime-gate/contract/run'
import type { Table } from '@dime-gate/contract/table'
import { parse } from 'csv-parse/sync'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { ended, keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

const RECORDS = ['Ilo Fenby,62,left on the note', 'Mara Ashcombe,41.5,', 'Tesk Larkfold,n/a,', '=Orra Hazelby,,', 'Wen Marshacre,70,']
const LATER = '2100-01-31'

let server: TemporaryServer
let table: Table
let gateId: number
let run: Run
let number = 0
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())
beforeEach(async () => {
  number++
  table = await bringIn(server, `Course ${number}`, ['Trainee,Mark,Remark', ...RECORDS].join('\n'), ({ columns }) => {
    columns[0]!.isIdentity = true
    columns[1]!.type = 'number'
  })
  const scale = plainScale(`Award ${number}`, givenNumber('Mark', '%'), [{ at: '50', owner: 'above' }], [band('Fail'), band('Pass')])
  const draft = { ...scale, examples: [{ values: { Mark: '33' }, label: 'Fail' }] }
  gateId = ((await server.ask('POST', '/gates', { draft, binding: { tableId: table.id, inputs: { Mark: { column: table.columns[1]!.id } } } })).body as { id: number }).id
  await server.ask('POST', `/gates/${gateId}/versions`, { seen: 1 })
  run = await ended(server, (await keepRun(server, { gateId, version: 1, tableId: table.id, binding: 1 })).id)
})

const links = async (records: number[] | null, endsOn = LATER) => (await server.ask('POST', `/runs/${run.id}/links`, { of: { label: null, records }, endsOn })).body as Link[]

test('a slip has what the run saw and gave, and nothing that the gate did not look at', async () => {
  const { head, total, slips } = (await server.ask('POST', `/runs/${run.id}/slips`, { label: null, records: null })).body as Slips
  expect(head.columns.map(({ name }) => name)).toEqual(['Trainee', 'Mark'])
  expect('examples' in head.gate).toBe(false)
  expect(total).toBe(5)
  expect(slips.map(({ cells, status, outcomes }) => [cells[0]![0], cells[1]!.find((text) => text !== null) ?? null, status, outcomes[0]])).toEqual([
    ['Ilo Fenby', '62', 'labelled', 'Pass'], ['Mara Ashcombe', '41.5', 'labelled', 'Fail'], ['Tesk Larkfold', 'n/a', 'held', null], ['=Orra Hazelby', null, 'held', null], ['Wen Marshacre', '70', 'labelled', 'Pass'],
  ])
})

test('those of one label, or of some records; none that the run does not have', async () => {
  const whose = async (request: object) => ((await server.ask('POST', `/runs/${run.id}/slips`, request)).body as Slips).slips.map(({ record }) => record)
  expect(await whose({ label: 'Pass', records: null })).toEqual([1, 5])
  expect(await whose({ label: null, records: [2, 99] })).toEqual([2])
})

test('a slip stays as the run saw it, whatever becomes of the table; what is given by hand stands on it', async () => {
  await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: table.columns[1]!.id, text: '99', filters: [], records: [2] })
  while (((await server.ask('GET', '/review')).body as { looking: number[] }).looking.length > 0);
  await server.ask('POST', '/review/acts', { kind: 'overridden', of: { runId: run.id, record: 3, mark: null }, isAlike: false, note: 'seen at the course', by: 'Ilo', outcomes: { Label: 'Pass' } })
  const { slips } = (await server.ask('POST', `/runs/${run.id}/slips`, { label: null, records: [2, 3] })).body as Slips
  expect(slips.map(({ cells, byHand }) => [cells[1]!.find((text) => text !== null), byHand])).toEqual([['41.5', null], ['n/a', { Label: 'Pass' }]])
})

test('a link leads to one slip and to nothing of any other record', async () => {
  const [link] = await links([2])
  expect(link!.token).toMatch(/^[\w-]{27}$/)
  const answer = await server.fetch(`/api/v1/slips/${link!.token}`)
  const text = await answer.text()
  expect((JSON.parse(text) as LinkedSlip).slip).toMatchObject({ record: 2, outcomes: ['Fail'] })
  for (const [who, value] of RECORDS.map((line) => line.split(','))) {
    if (who !== 'Mara Ashcombe') for (const other of [who!, value!]) expect(other !== '' && text.includes(`"${other}"`)).toBe(false)
  }
  expect(text).not.toContain('"33"')
  expect(text).not.toContain('left on the note')
})

test('where there is nothing to print with that is said, in either form, and everything else goes on', async () => {
  const before = process.env.CHROMIUM
  process.env.CHROMIUM = '/nowhere/chromium'
  try {
    for (const path of [`/runs/${run.id}/slips.zip`, `/runs/${run.id}/slips.pdf`, `/runs/${run.id}/report.pdf`]) expect(await server.ask('GET', path)).toMatchObject({ status: 501, body: { code: 'no-printer', message: expect.stringContaining('chromium') } })
  } finally {
    if (before === undefined) delete process.env.CHROMIUM
    else process.env.CHROMIUM = before
  }
  expect((await server.ask('GET', `/runs/${run.id}`)).status).toBe(200)
})

test('links are by chance, one a record; made again they keep their address and get the new end', async () => {
  const first = await links(null)
  expect(new Set(first.map(({ token }) => token)).size).toBe(5)
  const again = await links([1, 2], '2100-05-01')
  expect(again.map(({ token }) => token)).toEqual(first.map(({ token }) => token))
  expect(again.map(({ endsOn }) => endsOn)).toEqual(['2100-05-01', '2100-05-01', LATER, LATER, LATER])
})

test('withdrawn, ended, of a run that is removed, or never made: all lead nowhere, and say the same', async () => {
  const [one, two, three] = await links([1, 2, 3])
  const where = async (token: string) => server.ask('GET', `/slips/${token}`)
  await server.ask('POST', `/runs/${run.id}/links/withdrawal`, { records: [1] })
  await server.database.query('update link set ends_on = current_date - 1 where token = $1', [two!.token])
  const never = await where('A'.repeat(27))
  expect(never).toMatchObject({ status: 404, body: { code: 'not-found' } })
  expect(await where(one!.token)).toEqual(never)
  expect(await where(two!.token)).toEqual(never)
  expect((await where(three!.token)).status).toBe(200)
  await server.database.query('update link set ends_on = current_date where token = $1', [two!.token])
  expect((await where(two!.token)).status).toBe(200)
  await server.ask('DELETE', `/runs/${run.id}`)
  expect(await where(three!.token)).toEqual(never)
  // A token of one kind is none of the other.
  expect((await server.ask('GET', `/tries/${three!.token}`)).status).toBe(404)
})

test('a new link to a record whose link was withdrawn is another one', async () => {
  const [first] = await links([1])
  await server.ask('POST', `/runs/${run.id}/links/withdrawal`, { records: null })
  const [second] = await links([1])
  expect(second!.token).not.toBe(first!.token)
})

test('an end in the past is refused, and so is a day that there is none of', async () => {
  expect(await server.ask('POST', `/runs/${run.id}/links`, { of: { label: null, records: null }, endsOn: '2020-01-01' })).toMatchObject({ status: 422, body: { message: expect.stringContaining('later day') } })
  expect(await server.ask('POST', `/runs/${run.id}/links`, { of: { label: null, records: null }, endsOn: '2100-02-30' })).toMatchObject({ status: 400 })
})

test('as CSV a link stands beside who it is of; what a spreadsheet would run is guarded', async () => {
  const made = await links([1, 4])
  const text = await (await server.fetch(`/api/v1/runs/${run.id}/links.csv`)).text()
  expect(parse(text) as string[][]).toEqual([
    ['Trainee', 'Label', 'link', 'until'],
    ['Ilo Fenby', 'Pass', `${server.address}/slip/${made[0]!.token}`, LATER],
    ["'=Orra Hazelby", '', `${server.address}/slip/${made[1]!.token}`, LATER],
  ])
})

test('what a gate says is kept beside it; a change that did not see the last one is refused', async () => {
  const change = (seen: number, sentence: string) => server.ask('PUT', `/gates/${gateId}/sentence`, { seen, sentence })
  expect(await change(0, '{Label}.')).toEqual({ status: 200, body: { version: 1, sentence: '{Label}.' } })
  expect(await change(0, 'Well done.')).toMatchObject({ status: 409, body: { code: 'stale' } })
  expect((await server.ask('GET', `/gates/${gateId}/sentence`)).body).toEqual({ version: 1, sentence: '{Label}.' })
})

test('a gate to try is the version that was chosen, without the records that are kept with it', async () => {
  const make = (version: number) => server.ask('POST', `/gates/${gateId}/try-links`, { version, endsOn: LATER })
  expect((await make(2)).status).toBe(404)
  const [link] = (await make(1)).body as Link[]
  const found = (await server.ask('GET', `/tries/${link!.token}`)).body as LinkedGate
  expect(found).toMatchObject({ gate: { name: `Award ${number}` }, feeding: [], endsOn: LATER })
  expect('examples' in found.gate).toBe(false)
  expect((await server.ask('DELETE', `/gates/${gateId}/try-links/${link!.id}`)).body).toEqual([])
  expect((await server.ask('GET', `/tries/${link!.token}`)).status).toBe(404)
})
