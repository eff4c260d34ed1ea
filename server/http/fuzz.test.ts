import { band } from '@dime-gate/core/testing/a-gate'
import fc from 'fast-check'
import type { z } from 'zod'
import { bindingChangeSchema } from '@dime-gate/contract/binding'
import { changeRequestSchema, listingSchema, mergeRequestSchema } from '@dime-gate/contract/change'
import { workspaceChangeSchema } from '@dime-gate/contract/desk'
import { drawnPreviewRequestSchema } from '@dime-gate/contract/drawn-preview'
import { draftChangeSchema, type Gate, newGateSchema, versionRequestSchema } from '@dime-gate/contract/gate'
import { rollUpRequestSchema } from '@dime-gate/contract/roll-up'
import { type Run, runChangeSchema, runRequestSchema } from '@dime-gate/contract/run'
import { fileChoiceSchema, importRequestSchema, recordsRequestSchema, type Table, tableChangeSchema } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { fromSchema } from '../testing/arbitrary-from-schema'
import { bringIn, settingsOf } from '../testing/bring-in'
import { keepRun } from '../testing/keep-run'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let table: Table
/** One that is changed all the time. */
let moved: Table
let gate: Gate
let run: Run
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Trees', TEXT)
  moved = await bringIn(server, 'Moved', TEXT)
  gate = (await server.ask('POST', '/gates', { draft: SCALE, binding: { tableId: table.id, inputs: bound() } })).body
  await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
  run = await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })
})
afterAll(() => server.close())

const TEXT = 'Tree,Decay\nA,5\nB,12\nC,40\n'
const SCALE = plainScale('Band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }], [band('Sound'), band('Weak')])
const RULES = {
  schema: 1,
  form: 'rules',
  name: 'Rules',
  hitPolicy: 'first',
  inputs: SCALE.inputs,
  outcomes: SCALE.outcomes,
  rules: [{ condition: 'Decay > 5 and Decay < 70', entries: [{ feel: '"a" + "b"' }], note: 'n' }],
  otherwise: [{ is: 'rest' }],
}
const bound = () => ({ Decay: { column: table.columns[1]!.id } })

const reading = { decimalMark: 'point', dateOrder: 'day' }
const filters = () => {
  const [tree, decay] = moved.columns.map(({ id }) => id)
  return [
    { kind: 'values', column: tree, values: ['A'] },
    { kind: 'range', column: decay, low: '1', high: null },
    { kind: 'contains', column: tree, text: 'a' },
    { kind: 'blank', column: decay },
    { kind: 'unreadable', column: decay },
    { kind: 'outside', column: decay },
    { kind: 'found', text: '%_' },
  ]
}

/** Changes of a table of their own, each of a kind. */
const changes = (): object[] => {
  const [tree, decay] = moved.columns.map(({ id }) => id)
  return [
    { kind: 'values', reading, cells: [{ record: 1, column: decay, text: '7', seen: ['5', null] }] },
    { kind: 'fill', reading, column: tree, text: 'B', filters: filters(), records: null },
    { kind: 'fill', reading, column: tree, text: 'B', filters: [], records: [1] },
    { kind: 'add records', reading, rows: [[{ column: tree, text: 'D' }], []] },
    { kind: 'remove records', records: [2] },
    { kind: 'add column', name: 'Lean', unit: '°', type: 'number', fullMarks: '5' },
    {
      kind: 'change column',
      reading,
      column: decay,
      settings: { name: 'Rot', unit: '', type: 'text', fullMarks: null, isIdentity: true, expectedLow: '0', expectedHigh: '9' },
    },
    { kind: 'remove column', column: tree },
    {
      kind: 'column sets',
      sets: [
        { name: 'Decays', by: { kind: 'names', like: 'D*' } },
        { name: 'Chosen', by: { kind: 'columns', columns: [decay] } },
      ],
    },
    { kind: 'add figure', name: 'Twice', unit: '%', feel: 'sum(Decays) * 2' },
    { kind: 'change figure', column: decay, name: 'Twice', unit: '', feel: 'mean(all Decays)' },
  ]
}

/** Requests that are right, as method, path and body. */
const requests = (): [string, string, unknown][] => [
  ['POST', '/gates', { draft: { ...SCALE, name: 'Fuzzed' }, binding: { tableId: table.id, inputs: bound() } }],
  ['POST', '/gates', { draft: { ...RULES, name: 'Fuzzed rules' }, binding: null }],
  ['PUT', `/gates/${gate.id}/draft`, { draft: SCALE, seen: 1 }],
  ['PUT', `/gates/${gate.id}/draft`, { draft: { ...RULES, name: 'Band' }, seen: 1 }],
  ['POST', `/gates/${gate.id}/versions`, { seen: 1, note: 'as agreed' }],
  ['PUT', `/gates/${gate.id}/bindings/${table.id}`, { inputs: bound(), seen: 1 }],
  [
    'POST',
    '/runs',
    { gateId: gate.id, version: 1, tableId: table.id, binding: 1, feeding: [{ gateId: 1, version: 1, binding: 1 }], asOf: '2026-03-02' },
  ],
  ['PATCH', `/runs/${run.id}`, { name: 'Spring' }],
  ['PATCH', `/tables/${table.id}`, { name: 'Trees' }],
  ['POST', `/tables/${table.id}/records`, { records: [1, 2] }],
  ['PUT', '/workspace', { asOf: '2026-03-02' }],
  ['POST', `/tables/${table.id}/records`, { records: [1, 2], run: run.id }],
  ['POST', `/tables/${moved.id}/records`, { records: [1, 2], asOf: '2030-01-01' }],
  ['PUT', `/gates/${gate.id}/bindings/${table.id}`, { inputs: { Decay: { set: 'Decays' } }, seen: 1 }],
  ...changes().map((change): [string, string, unknown] => ['POST', `/tables/${moved.id}/changes`, change]),
  ['POST', `/tables/${moved.id}/changes`, { kind: 'add drawn', name: 'Drawn', unit: '', drawn: drawn() }],
  ['POST', `/tables/${moved.id}/drawn-previews`, { drawn: drawn(), column: null, record: 1 }],
  [
    'POST',
    `/tables/${moved.id}/roll-ups`,
    {
      name: 'Groups',
      by: [{ column: moved.columns[0]!.id, part: 'whole' }],
      figures: [{ name: 'n', unit: '', take: 'count', of: null, where: null }],
    },
  ],
  ['POST', `/tables/${moved.id}/changes/2/undoing`, {}],
  ['POST', `/tables/${moved.id}/records`, { records: [1, 2], version: 1 }],
]

const drawn = () => ({
  kind: 'related',
  table: table.id,
  keys: [{ own: moved.columns[0]!.id, theirs: table.columns[0]!.id, part: 'whole' }],
  take: 'share',
  of: null,
  where: 'Decay > 1',
  none: 'nothing',
})

const STRANGE: unknown[] = [
  null,
  true,
  0,
  -1,
  0.5,
  2 ** 31,
  2 ** 53,
  1e308,
  '',
  ' ',
  '\0',
  '\ud800',
  'x'.repeat(5000),
  '=1+1',
  '9'.repeat(400),
  '1e-400',
  '0000-01-01',
  '9999-99-99',
  [],
  [null],
  {},
  { a: 1 },
  '__proto__',
]

/** The same with one of its parts in another shape. */
function changed(body: unknown, path: readonly number[], strange: unknown): unknown {
  if (typeof body !== 'object' || body === null || path.length === 0) return strange
  const keys = Object.keys(body)
  if (keys.length === 0) return strange
  const key = keys[path[0]! % keys.length]!
  const part = changed((body as Record<string, unknown>)[key], path.slice(1), strange)
  return Array.isArray(body) ? body.with(Number(key), part) : { ...body, [key]: part }
}

test('requests that are almost right are done, or refused with a reason, and never a fault of ours', async () => {
  const paths = fc.array(fc.nat(30), { maxLength: 7 })
  await fc.assert(
    fc.asyncProperty(fc.nat(100), paths, fc.constantFrom(...STRANGE), async (which, path, strange) => {
      const [method, address, body] = requests()[which % requests().length]!
      const answer = await server.ask(method, address, changed(body, path, strange))
      const { code, message } = answer.body as { code?: string; message?: string }
      expect([answer.status < 500, answer.status < 400 || (Boolean(code) && Boolean(message))]).toEqual([true, true])
    }),
    { numRuns: 2400 },
  )
}, 120_000)

/** Every route that takes a body, with what that has to be. */
const takers = (): [string, string, z.ZodType][] => [
  ['POST', `/tables/${moved.id}/changes`, changeRequestSchema],
  ['POST', `/tables/${moved.id}/listings`, listingSchema],
  ['POST', `/tables/${moved.id}/merges`, mergeRequestSchema],
  ['POST', `/tables/${moved.id}/records`, recordsRequestSchema],
  ['POST', `/tables/${moved.id}/drawn-previews`, drawnPreviewRequestSchema],
  ['POST', `/tables/${moved.id}/roll-ups`, rollUpRequestSchema],
  ['PATCH', `/tables/${moved.id}`, tableChangeSchema],
  ['POST', '/tables', importRequestSchema],
  ['POST', '/files/none/looks', fileChoiceSchema],
  ['PUT', '/workspace', workspaceChangeSchema],
  ['POST', '/gates', newGateSchema],
  ['PUT', `/gates/${gate.id}/draft`, draftChangeSchema],
  ['PUT', `/gates/${gate.id}/bindings/${table.id}`, bindingChangeSchema],
  ['POST', `/gates/${gate.id}/versions`, versionRequestSchema],
  ['POST', '/runs', runRequestSchema],
  ['PATCH', `/runs/${run.id}`, runChangeSchema],
]

test('so are requests that the schemas let in, or nearly, whatever is in them', async () => {
  const strange = fc.constantFrom(...STRANGE)
  const all = takers().map(([method, path, schema]) => fromSchema(schema, strange).map((body) => ({ method, path, body })))
  const met = new Map<string, number>()
  await fc.assert(
    fc.asyncProperty(fc.oneof(...all), async ({ method, path, body }) => {
      const response = await server.fetch(`/api/v1${path}`, { method, body: JSON.stringify(body) })
      const text = path.endsWith('/listings') && response.ok ? '' : await response.text()
      const problem = response.ok ? null : (JSON.parse(text) as { code?: string; message?: string })
      expect([response.status < 500, problem === null || (Boolean(problem.code) && Boolean(problem.message))]).toEqual([true, true])
      if (response.ok) met.set(path, (met.get(path) ?? 0) + 1)
    }),
    { numRuns: 3000 },
  )
  // Chance that is refused throughout would prove little.
  expect(met.size).toBeGreaterThan(6)
}, 180_000)

test('so are addresses that are almost right', async () => {
  const ids = fc.constantFrom('1', '0', '-1', '999999', '2147483648', '9007199254740993', '1e3', '%00', '%E0%A4%A', '..%2f', 'x', '')
  const places = fc.constantFrom(
    'tables/{}',
    'tables/{}/profile',
    'tables/{}/columns/{}',
    'tables/{}/changes',
    'tables/{}/changes/{}/undoing',
    'tables/{}/records/{}/history',
    'tables/{}/file.{}',
    'tables/{}/listings',
    'tables/{}/merges',
    'files/{}',
    'files/{}/looks',
    'moves',
    'gates/{}',
    'gates/{}/bindings',
    'gates/{}/bindings/{}',
    'gates/{}/feeding/{}',
    'gates/{}/versions',
    'gates/{}/versions/{}',
    'runs/{}',
    'runs/{}/records',
    'runs/{}/columns/{}',
    'runs/{}/labelled.csv',
    'nothing/{}',
  )
  await fc.assert(
    fc.asyncProperty(places, ids, ids, fc.constantFrom('GET', 'HEAD', 'DELETE', 'POST'), async (place, first, second, method) => {
      // What is there stays there.
      if (method === 'DELETE' && first === '1') return
      const response = await server.fetch(`/api/v1/${place.replace('{}', first).replace('{}', second)}`, {
        method,
        ...(method === 'POST' ? { body: '{' } : {}),
      })
      await response.arrayBuffer()
      expect([place, first, second, method, response.status < 500]).toEqual([place, first, second, method, true])
    }),
    { numRuns: 400 },
  )
}, 120_000)

test('so are lists that are almost right', async () => {
  const [tree, decay] = moved.columns.map(({ id }) => id)
  const listing = {
    filters: filters(),
    sorts: [
      { column: decay, direction: 'rising' },
      { column: tree, direction: 'falling' },
    ],
  }
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(30), { maxLength: 5 }), fc.constantFrom(...STRANGE), async (path, strange) => {
      const response = await server.fetch(`/api/v1/tables/${moved.id}/listings`, {
        method: 'POST',
        body: JSON.stringify(changed(listing, path, strange)),
      })
      const text = await response.text()
      expect([response.status < 500, response.status < 400 ? '' : text]).toEqual([true, response.status < 400 ? '' : text])
    }),
    { numRuns: 400 },
  )
}, 120_000)

test('so are files that go into a table in ways that are almost right', async () => {
  const settings = settingsOf(TEXT)
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.nat(30), { maxLength: 5 }),
      fc.constantFrom(...STRANGE),
      fc.boolean(),
      fc.boolean(),
      async (path, strange, isReplacing, isTrial) => {
        const { id: file } = (await server.ask('POST', '/files?name=almost', TEXT)).body as { id: string }
        const answer = await server.ask(
          'POST',
          `/tables/${table.id}/merges`,
          changed({ file, settings, isReplacing, isTrial }, path, strange),
        )
        expect([answer.status < 500, answer.body]).toEqual([true, answer.body])
        await server.fetch(`/api/v1/files/${file}`, { method: 'DELETE' })
      },
    ),
    { numRuns: 150 },
  )
}, 120_000)

test('so are files with settings that are almost right', async () => {
  const settings = settingsOf(TEXT)
  const format: object = settings
  const bytes = fc.oneof(
    fc.constant(new TextEncoder().encode(TEXT)),
    fc.uint8Array({ maxLength: 60 }),
    fc.string({ unit: 'binary' }).map((text) => new TextEncoder().encode(text)),
  )
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(30), { maxLength: 5 }), fc.constantFrom(...STRANGE), bytes, async (path, strange, body) => {
      const { id: file } = (await server.ask('POST', '/files?name=almost', body)).body as { id: string }
      const choice = changed(
        { format: { ...format, columns: undefined, kind: undefined }, columns: { 0: settings.columns[0] } },
        path,
        strange,
      )
      const look = await server.ask('POST', `/files/${file}/looks`, choice)
      const made = await server.ask('POST', '/tables', changed({ file, name: 'Almost', settings }, path, strange))
      expect([look.status < 500, made.status < 500, look.body, made.body]).toEqual([true, true, look.body, made.body])
      if (made.status === 201) await server.ask('DELETE', `/tables/${(made.body as Table).id}`)
      await server.fetch(`/api/v1/files/${file}`, { method: 'DELETE' })
    }),
    { numRuns: 300 },
  )
}, 120_000)
