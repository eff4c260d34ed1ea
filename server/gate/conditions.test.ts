import type { Binding } from '@dime-gate/contract/binding'
import type { KnownCondition } from '@dime-gate/contract/condition'
import type { Gate } from '@dime-gate/contract/gate'
import type { Table } from '@dime-gate/contract/table'
import type { RulesGate, SharedCondition } from '@dime-gate/core/gate/document'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { bringIn } from '../testing/bring-in'
import { type TemporaryServer, temporaryServer } from '../testing/temporary-server'

let server: TemporaryServer
let table: Table
let other: Table
beforeAll(async () => {
  server = await temporaryServer()
  table = await bringIn(server, 'Stems', 'No,Decay,Lean,Height\nA,30,20,9\nB,10,5,12\n')
  other = await bringIn(server, 'Saplings', 'Tree,Decay,Rot,height\nC,40,1,2\n')
})
afterAll(() => server.close())

const weak: SharedCondition = { id: '00000000-0000-4000-8000-00000000000a', name: 'Weak stem', feel: 'Decay >= 25' }
const column = (of: Table, name: string) => ({ column: of.columns.find((one) => one.name === name)!.id })

/** A gate with one rule, on the table. */
async function made(name: string, condition: string, conditions: SharedCondition[], on = table): Promise<Gate> {
  const draft: RulesGate = { ...rulesGate([anInput('Decay', 'number')], [[condition, 'Fell']]), name, conditions }
  const { status, body } = await server.ask('POST', '/gates', { draft, binding: { tableId: on.id, inputs: { Decay: column(on, 'Decay') } } })
  if (status !== 201) throw new Error(JSON.stringify(body))
  return body as Gate
}

const gate = async (id: number) => (await server.ask('GET', `/gates/${id}`)).body as Gate
const change = (of: Gate, next: (draft: RulesGate) => RulesGate) => server.ask('PUT', `/gates/${of.id}/draft`, { draft: next(of.draft as RulesGate), seen: of.draftVersion })
const saying = (feel: string, name = weak.name) => (draft: RulesGate): RulesGate => ({
  ...draft, conditions: draft.conditions!.map((one) => ({ ...one, feel, name })), rules: draft.rules.map((rule) => ({ ...rule, condition: rule.condition.replaceAll(weak.name, name) })),
})
const known = async () => (await server.ask('GET', '/conditions')).body as KnownCondition[]

let first: Gate
let second: Gate
test('a condition is known with the gates that carry it, the rules that use it, and what it needs', async () => {
  first = await made('Felling', 'Weak stem and Decay < 90', [weak])
  second = await made('Crown check', 'not(Weak stem)', [weak], other)
  expect(await known()).toEqual([{
    ...weak, parcel: { conditions: [weak], inputs: [anInput('Decay', 'number')] },
    gates: [{ id: second.id, name: 'Crown check', table: other.id, rules: [0] }, { id: first.id, name: 'Felling', table: table.id, rules: [0] }],
  }])
})

test('what one gate says of it all say, with the inputs that it needs, bound where the columns say it; a version stays what it was', async () => {
  await server.ask('POST', `/gates/${second.id}/versions`, { seen: 1 })
  const { draft } = first
  const wider = { ...first, draft: { ...draft, inputs: [...draft.inputs, anInput('Height', 'number')] } }
  expect((await change(wider, saying('Decay >= 25 or Height > 10'))).status).toBe(200)
  const now = await gate(second.id)
  expect(now.draft.conditions).toEqual([{ ...weak, feel: 'Decay >= 25 or Height > 10' }])
  expect(now.draft.inputs.map(({ name }) => name)).toEqual(['Decay', 'Height'])
  expect(now.latest!.conditions).toEqual([weak])
  expect(now.draftVersion).toBe(2)
  const [bound] = (await server.ask('GET', `/gates/${second.id}/bindings`)).body as Binding[]
  expect(bound).toMatchObject({ version: 2, inputs: { Decay: column(other, 'Decay'), Height: column(other, 'height') } })
})

test('whoever had the other gate open is told, and loses nothing', async () => {
  expect(await change(second, (draft) => ({ ...draft, rules: [] }))).toMatchObject({ status: 409, body: { code: 'stale' } })
})

test('another name goes along to where it is used', async () => {
  expect((await change(await gate(first.id), saying('Decay >= 30', 'Rotten'))).status).toBe(200)
  const { draft } = await gate(second.id)
  expect(draft.conditions).toEqual([{ ...weak, name: 'Rotten', feel: 'Decay >= 30' }])
  expect((draft as RulesGate).rules[0]!.condition).toBe('not(Rotten)')
})

test('one name is one condition, and one that moved meanwhile is not taken unseen', async () => {
  const third = await made('Third', 'Decay > 1', [])
  const carrying = (condition: SharedCondition) => change(third, (draft) => ({ ...draft, conditions: [condition] }))
  expect(await carrying({ ...weak, id: 'ffffffff', name: 'Rotten' })).toMatchObject({ status: 409, body: { code: 'name-taken', message: expect.stringMatching(/“Rotten”, in the gate/) } })
  expect(await carrying({ ...weak, name: 'Rotten' })).toMatchObject({ status: 409, body: { code: 'name-taken', message: expect.stringContaining('by now') } })
  expect(await carrying({ ...weak, name: 'Rotten', feel: 'Decay >= 30' })).toMatchObject({ status: 200 })
  expect((await known())[0]!.gates.map(({ name, rules }) => [name, rules])).toContainEqual(['Third', []])
})

test('what does not go with another gate is refused whole', async () => {
  const fourth = await made('Fourth', 'Rotten', [{ ...weak, name: 'Rotten', feel: 'Decay >= 30' }])
  const now = await gate(first.id)
  const textual = { ...fourth, draft: { ...fourth.draft, inputs: [...fourth.draft.inputs, anInput('Height', 'text')] } }
  expect((await change(textual, (draft) => draft)).status).toBe(200)
  expect(await change(now, saying('Height > 3', 'Rotten'))).toMatchObject({ status: 422, body: { code: 'cannot-decide', message: expect.stringContaining('“Fourth”') } })
  expect((await gate(first.id)).draftVersion).toBe(now.draftVersion)
  expect((await known())[0]!.feel).toBe('Decay >= 30')
})

test('a gate that was removed follows, and comes back only where its names are free', async () => {
  const fifth = await made('Fifth', 'Tall', [{ id: 'aaaaaaaa', name: 'Tall', feel: 'Decay > 50' }])
  const sixth = await made('Sixth', 'Tall', [{ id: 'aaaaaaaa', name: 'Tall', feel: 'Decay > 50' }])
  await server.ask('DELETE', `/gates/${fifth.id}`)
  await change(sixth, (draft) => ({ ...draft, conditions: [{ id: 'aaaaaaaa', name: 'High', feel: 'Decay > 60' }], rules: [] }))
  const seventh = await made('Seventh', 'Tall', [{ id: 'bbbbbbbb', name: 'Tall', feel: 'Decay > 1' }])
  expect((await server.ask('POST', `/gates/${fifth.id}/restoration`, {})).status).toBeLessThan(300)
  expect((await gate(fifth.id)).draft).toMatchObject({ conditions: [{ name: 'High', feel: 'Decay > 60' }], rules: [{ condition: 'High' }] })
  await server.ask('DELETE', `/gates/${seventh.id}`)
  await made('Eighth', 'Tall', [{ id: 'cccccccc', name: 'Tall', feel: 'Decay > 2' }])
  expect(await server.ask('POST', `/gates/${seventh.id}/restoration`, {})).toMatchObject({ status: 409, body: { code: 'name-taken' } })
})

test('two who change it at once do not block each other', async () => {
  const [a, b] = [await gate(first.id), await gate(second.id)]
  const answers = await Promise.all([change(a, saying('Decay >= 31', 'Rotten')), change(b, saying('Decay >= 32', 'Rotten'))])
  expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409])
  const said = [(await gate(first.id)).draft, (await gate(second.id)).draft].map(({ conditions }) => conditions![0]!.feel)
  expect(said[0]).toBe(said[1])
})
