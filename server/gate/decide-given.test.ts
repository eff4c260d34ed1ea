import { API } from '@dime-gate/contract/api'
import { type DecideAnswer, decideAnswerSchema } from '@dime-gate/contract/decide'
import type { Gate as StoredGate } from '@dime-gate/contract/gate'
import { OPERATIONS } from '@dime-gate/contract/operations'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import type { Gate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { lowered } from '@dime-gate/core/rule/lower'
import { anInput, band, givenBy, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { textOfValue } from '@dime-gate/core/value/value-text'
import fc from 'fast-check'
import { ROUTES } from '../app'
import type { Jobs } from '../jobs'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
  await server.ask('PUT', '/workspace', { asOf: '2026-03-02' })
})
afterAll(() => server.close())

/** A gate with its first version set. */
async function set(draft: Gate): Promise<number> {
  const { status, body } = await server.ask('POST', '/gates', { draft, binding: null })
  if (status !== 201) throw new Error(JSON.stringify(body))
  const { id } = body as StoredGate
  await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })
  return id
}
const decide = (id: number, body: object, version = 1) => server.ask('POST', `/gates/${id}/versions/${version}/decide`, body)
const answered = async (id: number, body: object): Promise<DecideAnswer> => {
  const { status, body: answer } = await decide(id, body)
  if (status !== 200) throw new Error(JSON.stringify(answer))
  return decideAnswerSchema.parse(answer)
}

const INPUTS = [anInput('Decay', 'number', { unit: '%' }), anInput('Due', 'date'), anInput('Dead', 'boolean'), anInput('Modules', 'number', { isSet: true })]
const RULES = (name: string) => rulesGate(INPUTS, [['Dead', 'fell'], ['Decay >= 40', 'fell'], ['Due < today()', 'late'], ['mean(Modules) >= 3.5', 'good']], { name, otherwise: [{ is: 'leave' }] })

test('one record gets its label, and the why where it is asked for', async () => {
  const id = await set(RULES('One'))
  const { records: [first], gate, version, asOf } = await answered(id, { records: [{ Decay: 40.5, Due: '2026-04-01', Dead: false }], why: true })
  expect({ gate, version, asOf }).toEqual({ gate: 'One', version: 1, asOf: '2026-03-02' })
  expect(first).toMatchObject({ status: 'labelled', label: 'fell', rule: 2, outcomes: { Label: 'fell' }, missing: [] })
  expect(first!.why!.rules).toMatchObject([{ rule: 1, verdict: 'false' }, { rule: 2, verdict: 'true', tests: [{ test: 'Decay >= 40', saw: '40.5', nearest: { at: '40', distance: '0.5' } }] }])
  expect((await answered(id, { records: [{ Decay: 1, Due: '2026-04-01', Dead: 'no', Modules: [3, 4, null] }] })).records[0]).toMatchObject({ label: 'good', rule: 4 })
  expect((await answered(id, { records: [{ Decay: 1, Due: '2026-04-01', Dead: 'no', Modules: [] }], asOf: '2026-05-01' })).records[0]).toMatchObject({ label: 'late' })
})

test('what is missing holds a record; what cannot be read does too, and stays as it was given', async () => {
  const id = await set(RULES('Held'))
  const { records } = await answered(id, { records: [{ Due: '2026-04-01', Dead: false, Modules: [5] }, { Decay: 'n/a', Due: '2026-04-01', Dead: false, Modules: [5] }, { Decay: 90 }] })
  expect(records[0]).toMatchObject({ status: 'held', label: null, rule: null, missing: ['Decay'], exceptions: [{ kind: 'held', inputs: ['Decay'] }] })
  expect(records[1]).toMatchObject({ status: 'held', exceptions: expect.arrayContaining([{ kind: 'unreadable', input: 'Decay', text: 'n/a' }]) })
  // Whatever the blank is, both rules that could take it give the same.
  expect(records[2]).toMatchObject({ status: 'labelled', label: 'fell' })
})

test('findings of the gate come where they are asked for', async () => {
  const id = await set(rulesGate([anInput('Decay', 'number')], [['Decay < 40', 'sound'], ['Decay > 40', 'failing']], { name: 'Holed' }))
  const { findings } = await answered(id, { records: [{ Decay: 40 }], findings: true })
  expect(findings).toEqual(expect.arrayContaining([expect.objectContaining({ kind: 'edge hole', severity: 'error', example: { Decay: '40' } })]))
})

test('gates that feed it are used as they were set last, and told', async () => {
  const scale = plainScale('Fed band', givenNumber('Decay', '%'), [{ at: '25', owner: 'above' }], [band('Sound'), band('Failing')])
  const feeding = await set(scale)
  const id = await set(rulesGate([anInput('Band', 'text', { source: { kind: 'gate', gate: 'Fed band', outcome: null } }), anInput('Lean', 'number')], [['Band = "Failing" and Lean > 10', 'fell']], { name: 'Fed', otherwise: [{ is: 'leave' }] }))
  const ask = async () => (await answered(id, { records: [{ Decay: 30, Lean: 20 }] }))
  expect(await ask()).toMatchObject({ feeding: [{ gate: 'Fed band', version: 1 }], records: [{ label: 'fell' }] })
  await server.ask('PUT', `/gates/${feeding}/draft`, { draft: { ...scale, cuts: [{ at: '35', owner: 'above' }] }, seen: 1 })
  expect((await ask()).records[0]!.label).toBe('fell')
  await server.ask('POST', `/gates/${feeding}/versions`, { seen: 2 })
  expect(await ask()).toMatchObject({ feeding: [{ gate: 'Fed band', version: 2 }], records: [{ label: 'leave' }] })
})

test('what is asked wrongly is told', async () => {
  const id = await set(RULES('Asked wrongly'))
  expect(await decide(id, { records: [{ Decay: 1 }, { Decai: 1 }] })).toMatchObject({ status: 400, body: { code: 'malformed', message: expect.stringContaining('no input “Decai”, which record 2 gives. It has: Decay') } })
  expect(await decide(id, { records: [] })).toMatchObject({ status: 400 })
  expect(await decide(id, { records: Array.from({ length: 1001 }, () => ({})) })).toMatchObject({ status: 400 })
  expect(await decide(id, { records: [{}], asOf: 'tomorrow' })).toMatchObject({ status: 400 })
  expect(await decide(id, { records: [{}] }, 2)).toMatchObject({ status: 404 })
  expect(await decide(999_999, { records: [{}] })).toMatchObject({ status: 404 })
  await server.ask('DELETE', `/gates/${id}`)
  expect(await decide(id, { records: [{}] })).toMatchObject({ status: 404 })
})

test('a thousand records at once get what each gets by itself, as decimals decide, also where it takes a thread', async () => {
  const inputs = [anInput('a', 'number'), anInput('b', 'number')]
  const gate = rulesGate(inputs, [...Array.from({ length: 40 }, (_, at): [string, string] => [`a - b >= ${(40 - at) / 10} and a < 2`, `label ${at % 7}`])], { name: 'Many', otherwise: [{ is: 'rest' }] })
  const id = await set(gate)
  const texts = fc.sample(fc.record({ a: fc.integer({ min: 0, max: 40 }).map((tenths) => String(tenths / 10)), b: fc.option(fc.integer({ min: -20, max: 20 }).map((tenths) => String(tenths / 10))) }), { numRuns: 1000, seed: 7 })
  const { records } = await answered(id, { records: texts })
  const ready = lowered(gate)
  texts.forEach((record, at) => {
    const { status, outcomes } = decideRecord(ready, givenBy(inputs, record), TODAY)
    expect([records[at]!.status, records[at]!.label]).toEqual([status, textOfValue(outcomes[0] ?? null) || null])
  })
})

test('the description tells every resource that the server has, and none that it has not', async () => {
  const { body } = await server.ask('GET', '/openapi.json')
  const { openapi, paths } = body as { openapi: string; paths: Record<string, Record<string, { responses: object }>> }
  expect(openapi).toBe('3.1.1')
  const told = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((method) => `${method} ${path}`)).toSorted()
  expect(told).toEqual(OPERATIONS.map(({ method, path }) => `${method} ${path}`).toSorted())
  const layers = ROUTES.flatMap((routes) => routes(server.database, {} as Jobs, (error) => { throw error }).stack)
  const served = layers.flatMap(({ methods, path }) => methods.filter((method) => method !== 'HEAD').map((method) => `${method.toLowerCase()} ${String(path).replace(API, '').replace(/:(\w+)/g, '{$1}').replace(/(.)\/$/, '$1')}`))
  expect(told).toEqual(served.filter((one) => !/ \/(health|ready)$/.test(one)).toSorted())
})
