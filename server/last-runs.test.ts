import type { Desk } from '@dime-gate/contract/desk'
import type { Gate } from '@dime-gate/contract/gate'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { Jobs } from './jobs'
import { bringIn } from './testing/bring-in'
import { ended, keepRun } from './testing/keep-run'
import { type TemporaryServer, temporaryServer } from './testing/temporary-server'
import { readDesk } from './workspace'

let server: TemporaryServer
beforeAll(async () => {
  server = await temporaryServer()
})
afterAll(() => server.close())

/** As it is told by whoever has been there all along, and by one who has kept nothing. */
async function both(): Promise<[Desk, Desk]> {
  const jobs = new Jobs(server.database, server.url)
  try {
    const ask = async (desk: () => Promise<Desk>): Promise<Desk> => {
      for (;;) {
        const found = await desk()
        // What is counted is there a moment later.
        if (Object.values(found.fresh).every(({ otherwise, problem }) => otherwise !== null || problem !== null)) return found
      }
    }
    return [await ask(async () => (await server.ask('GET', '/desk')).body), await ask(() => readDesk(server.database, jobs))]
  } finally {
    await jobs.close()
  }
}

test('whatever is changed, the desk tells of the last runs what one would who has kept nothing', async () => {
  const table = await bringIn(server, 'Trees', ['Tree,Decay,Lean', 'a,10,1', 'b,30,2', 'c,50,3'].join('\n'))
  const column = (name: string) => table.columns.find((one) => one.name === name)!.id
  const gate = (await server.ask('POST', '/gates', { draft: plainScale('Band', givenNumber('Decay', '%'), [{ at: '20', owner: 'above' }], [band('sound'), band('weak')]), binding: { tableId: table.id, inputs: { Decay: { column: column('Decay') } } } })).body as Gate
  await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 1 })
  const run = await ended(server, (await keepRun(server, { gateId: gate.id, version: 1, tableId: table.id, binding: 1 })).id)
  const told = async () => {
    const [kept, anew] = await both()
    expect([kept.expected, kept.fresh, kept.runs.map(({ id, state }) => [id, state])]).toEqual([anew.expected, anew.fresh, anew.runs.map(({ id, state }) => [id, state])])
    // And once more, from what is kept.
    expect((await both())[0]).toEqual(kept)
    return kept
  }
  expect((await told()).fresh[run.id]).toMatchObject({ otherwise: 0 })
  await server.ask('POST', `/tables/${table.id}/changes`, { kind: 'fill', reading: { decimalMark: 'point', dateOrder: 'year' }, column: column('Decay'), text: '90', filters: [], records: [1] })
  expect((await told()).fresh[run.id]).toMatchObject({ otherwise: 1 })
  const expected = (await server.ask('POST', `/gates/${gate.id}/expectations`, { add: [{ tableId: null, expectation: { kind: 'count', of: { kind: 'label', label: 'weak' }, within: null, bounds: { as: 'count', low: null, high: '1' } } }] })).body as { id: number }[]
  expect((await told()).expected[run.id]).toMatchObject({ missed: 1 })
  await server.ask('DELETE', `/gates/${gate.id}/expectations/${expected[0]!.id}`)
  expect((await told()).expected).toEqual({})
  const draft = gate.draft as ScaleGate
  await server.ask('PUT', `/gates/${gate.id}/draft`, { draft: { ...draft, cuts: [{ at: '40', owner: 'above' }] }, seen: 1 })
  await server.ask('POST', `/gates/${gate.id}/versions`, { seen: 2 })
  expect((await told()).fresh[run.id]).toMatchObject({ otherwise: 2, differences: { gate: { to: 'Band, version 2' } } })
  await server.ask('PUT', `/gates/${gate.id}/bindings/${table.id}`, { inputs: { Decay: { column: column('Lean') } }, seen: 1 })
  expect((await told()).fresh[run.id]).toMatchObject({ differences: { binding: ['Decay'] } })
  await server.ask('PUT', '/workspace', { asOf: '2020-01-01' })
  expect((await told()).fresh[run.id]).toMatchObject({ differences: { asOf: { to: '2020-01-01' } } })
  const again = await ended(server, ((await server.ask('POST', `/runs/${run.id}/again`, { as: 'now' })).body as { id: number }).id)
  expect(Object.keys((await told()).fresh)).toEqual([String(again.id)])
  await server.ask('DELETE', `/runs/${again.id}`)
  expect(Object.keys((await told()).fresh)).toEqual([String(run.id)])
})
