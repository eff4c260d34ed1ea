import type { Run } from '@dime-gate/contract/run'
import type { TableRecord } from '@dime-gate/contract/table'
import { gateOn } from '../testing/gate-on'
import { keepRun } from '../testing/keep-run'
import { idOf, TreesServer } from '../testing/trees-server'

let on: TreesServer
beforeAll(async () => {
  on = await TreesServer.start()
})
afterAll(() => on.close())

describe('a label as a column', () => {
  test('holds what a gate gives, from its latest version or its draft, and is used by figures, gates and exports', async () => {
    const { trees } = await on.tables()
    const gate = await gateOn(on.server, trees, 'Height', ['15'], ['low', 'tall'])
    await on.add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    await on.add(trees, 'Size drafted', { kind: 'label', gate: gate.id, from: 'draft', outcome: 0 })
    const table = (await on.change(trees, { kind: 'add figure', name: 'Tall', unit: '', feel: 'Size = "tall"' })).table
    expect(await on.cellsOf(trees, 'Size', 'Size drafted', 'Tall')).toEqual([
      ['low', 'low', 'false'],
      ['tall', 'tall', 'true'],
      [null, null, 'false'],
      ['low', 'low', 'false'],
    ])
    const { body: before } = await on.server.ask('GET', `/gates/${gate.id}`)
    const { draft, draftVersion } = before as { draft: object; draftVersion: number }
    const renamed: unknown = JSON.parse(JSON.stringify(draft).replaceAll('"tall"', '"high"'))
    expect((await on.server.ask('PUT', `/gates/${gate.id}/draft`, { draft: renamed, seen: draftVersion })).status).toBe(200)
    expect(await on.cellsOf(trees, 'Size', 'Size drafted')).toEqual([
      ['low', 'low'],
      ['tall', 'high'],
      [null, null],
      ['low', 'low'],
    ])
    expect(await on.listed(trees, { filters: [{ kind: 'values', column: idOf(table, 'Size'), values: ['tall'] }] })).toEqual([2])
    const answer = await on.set(trees, 1, 'Height', '16', ['10', null])
    expect(answer.records[0]!.cells.slice(-3).map(([value]) => value)).toEqual(['tall', 'high', 'true'])
    const csv = await (await on.server.fetch(`/api/v1/tables/${trees.id}/file.csv`)).text()
    expect(csv.split('\n')[1]!.trim()).toBe('T 1,North,16,2001-05-04,tall,high,true')
    expect(await on.server.ask('DELETE', `/gates/${gate.id}`)).toMatchObject({ status: 409 })
  })

  test('a ring by way of a gate is refused by naming it', async () => {
    const { trees } = await on.tables()
    const figured = (await on.change(trees, { kind: 'add figure', name: 'Double', unit: '', feel: 'Height * 2' })).table
    const gate = await gateOn(on.server, figured, 'Double', ['15'], ['low', 'tall'])
    const labelled = await on.add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    const ring = await on.asked(trees, {
      kind: 'change figure',
      column: idOf(labelled, 'Double'),
      name: 'Double',
      unit: '',
      feel: 'if Size = "low" then 1 else 2',
    })
    expect([ring.status, ring.body.message]).toEqual([422, expect.stringMatching(/ring: “Double” of .* needs “Size” of .* needs “Double”/)])
  })

  test('a run keeps it as it was', async () => {
    const { trees } = await on.tables()
    const gate = await gateOn(on.server, trees, 'Height', ['15'], ['low', 'tall'])
    await on.add(trees, 'Place', { kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })
    const placed = await gateOn(on.server, await on.now(trees), 'Place', ['2'], ['first', 'rest'])
    const kept: Run = await keepRun(on.server, { gateId: placed.id, version: 1, tableId: trees.id, binding: 1 })
    await on.set(trees, 3, 'Height', '90', [null, null])
    const { body } = await on.server.ask('POST', `/tables/${trees.id}/records`, { records: [1, 2, 3, 4], run: kept.id })
    expect((body as TableRecord[]).map(({ cells }) => cells.at(-1)![0])).toEqual(['2', '1', null, '3'])
    expect(kept.counts).toMatchObject({ records: 4, caught: [1, 2], held: 1 })
    expect(gate.id).not.toBe(placed.id)
  })
})
