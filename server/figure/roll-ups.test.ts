import type { ChangeRequest } from '@dime-gate/contract/change'
import type { Table } from '@dime-gate/contract/table'
import { gateOn } from '../testing/gate-on'
import { keepRun } from '../testing/keep-run'
import { idOf, READING, TreesServer } from '../testing/trees-server'

let on: TreesServer
beforeAll(async () => {
  on = await TreesServer.start()
})
afterAll(() => on.close())

describe('a roll-up', () => {
  const rollUp = async (trees: Table, by: { column: string; part?: 'year' | 'month' }[]) => {
    const { status, body } = await on.server.ask('POST', `/tables/${trees.id}/roll-ups`, {
      name: on.name('Groups'),
      by: by.map(({ column, part }) => ({ column: idOf(trees, column), part: part ?? 'whole' })),
      figures: [
        { name: 'Trees', unit: '', take: 'count', of: null, where: null },
        { name: 'Mean height', unit: 'm', take: 'mean', of: idOf(trees, 'Height'), where: null },
        { name: 'Over 8 m', unit: '%', take: 'share', of: null, where: 'Height > 8' },
      ],
    })
    expect([status, body]).toEqual([201, body])
    return body as Table
  }

  test('has a record for each group, blanks among them, and follows the table beneath', async () => {
    const { trees } = await on.tables()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    expect(wards).toMatchObject({ records: 3, standsOn: [trees.id], rollUp: { table: trees.id } })
    expect(await on.cellsOf(wards, 'Ward', 'Trees', 'Mean height', 'Over 8 m')).toEqual([
      ['North', '2', '15.25', '100'],
      ['South', '1', null, '0'],
      [null, '1', '5', '0'],
    ])
    await on.set(trees, 3, 'Ward', 'West', ['South', null])
    await on.set(trees, 4, 'Ward', 'North', [null, null])
    expect(await on.cellsOf(wards, 'Ward', 'Trees')).toEqual([
      ['North', '3'],
      ['West', '1'],
    ])
    expect(await on.now(wards)).toMatchObject({ records: 2 })
  })

  test('of a record that is changed, its groups alone are worked out anew', async () => {
    const { trees } = await on.tables()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    const known = () => on.cellsOf(wards, 'Ward', 'Trees', 'Mean height')
    await known()
    // Told apart from what it would come to.
    const { rows } = await on.server.database.query<{ generation: number }>('select generation from figure_state where table_id = $1', [wards.id])
    const count = `c${idOf(wards, 'Trees')}`
    await on.server.database.query(`update records.g${wards.id}_${rows[0]!.generation} set ${count} = 70 + ${count}`)
    await on.set(trees, 1, 'Height', '20', ['10', null])
    expect(await known()).toEqual([
      ['North', '2', '20.25'],
      ['South', '71', null],
      [null, '71', '5'],
    ])
    await on.set(trees, 4, 'Ward', 'South', [null, null])
    expect(await known()).toEqual([
      ['North', '2', '20.25'],
      ['South', '2', '5'],
    ])
    expect(await on.now(wards)).toMatchObject({ columns: [{ blank: 0 }, { blank: 0 }, { blank: 0 }, { blank: 0 }] })
  })

  test('can be drawn from by the table beneath: what others of a group come to follows at once', async () => {
    const { trees } = await on.tables()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    await on.add(trees, 'Mean of its ward', {
      kind: 'related',
      table: wards.id,
      keys: [{ own: idOf(trees, 'Ward'), theirs: idOf(wards, 'Ward'), part: 'whole' }],
      take: 'value',
      of: idOf(wards, 'Mean height'),
      where: null,
      none: 'blank',
    })
    expect(await on.valuesOf(trees, 'Mean of its ward')).toEqual(['15.25', '15.25', null, null])
    await on.set(trees, 1, 'Height', '20', ['10', null])
    expect(await on.valuesOf(trees, 'Mean of its ward')).toEqual(['20.25', '20.25', null, null])
    await on.set(trees, 2, 'Ward', 'South', ['North', null])
    expect(await on.valuesOf(trees, 'Mean of its ward')).toEqual(['20', '20.5', '20.5', null])
  })

  test('goes by the year of a date, by several columns, and by what is computed', async () => {
    const { trees } = await on.tables()
    expect(await on.cellsOf(await rollUp(trees, [{ column: 'Planted', part: 'year' }]), 'Planted, year', 'Trees')).toEqual([
      ['2001', '2'],
      ['2002', '1'],
      [null, '1'],
    ])
    expect(
      await on.cellsOf(await rollUp(trees, [{ column: 'Ward' }, { column: 'Planted', part: 'month' }]), 'Ward', 'Planted, month', 'Trees'),
    ).toEqual([
      ['North', '2001-05', '1'],
      ['North', '2001-12', '1'],
      ['South', '2002-01', '1'],
      [null, null, '1'],
    ])
    const gate = await gateOn(on.server, trees, 'Height', ['15'], ['low', 'tall'])
    const labelled = await on.add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
    const sizes = await rollUp(labelled, [{ column: 'Size' }])
    expect(await on.cellsOf(sizes, 'Size', 'Trees', 'Mean height')).toEqual([
      ['low', '2', '7.5'],
      ['tall', '1', '20.5'],
      [null, '1', null],
    ])
    await on.set(trees, 1, 'Height', '50', ['10', null])
    expect(await on.cellsOf(sizes, 'Size', 'Trees')).toEqual([
      ['low', '1'],
      ['tall', '2'],
      [null, '1'],
    ])
  })

  test('by one column twice is refused with what to do, and makes no table', async () => {
    const { trees } = await on.tables()
    const name = on.name('Twice')
    const twice = [1, 2].map(() => ({ column: idOf(trees, 'Ward'), part: 'whole' }))
    const { status, body } = await on.server.ask('POST', `/tables/${trees.id}/roll-ups`, { name, by: twice, figures: [] })
    expect([status, (body as { message: string }).message]).toEqual([422, expect.stringContaining('“Ward” twice')])
    const { tables } = (await on.server.ask('GET', '/desk')).body as { tables: { name: string }[] }
    expect(tables.filter((table) => table.name === name)).toEqual([])
  })

  test('is a table: it has figures, gates and runs of its own; its groups are not typed', async () => {
    const { trees } = await on.tables()
    const wards = await rollUp(trees, [{ column: 'Ward' }])
    const table = (await on.change(wards, { kind: 'add figure', name: 'Half', unit: '', feel: 'Trees / 2' })).table
    const gate = await gateOn(on.server, table, 'Half', ['1'], ['few', 'many'])
    const run = await keepRun(on.server, { gateId: gate.id, version: 1, tableId: wards.id, binding: 1 })
    expect(run.counts).toMatchObject({ records: 3, caught: [2, 1] })
    for (const request of [
      { kind: 'remove records', records: [1] },
      { kind: 'values', reading: READING, cells: [{ record: 1, column: idOf(table, 'Ward'), text: 'x', seen: ['North', null] }] },
      { kind: 'add records', reading: READING, rows: [[]] },
    ] satisfies ChangeRequest[])
      expect((await on.asked(wards, request)).body.code).toBe('computed')
    expect(await on.asked(trees, { kind: 'remove column', column: idOf(trees, 'Ward') })).toMatchObject({ status: 409 })
  })
})
