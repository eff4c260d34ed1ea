import type { Drawn } from '@dime-gate/contract/drawn'
import type { Table } from '@dime-gate/contract/table'
import { Decimal } from '@dime-gate/core/value/number'
import { bringIn } from '../testing/bring-in'
import { gateOn } from '../testing/gate-on'
import { idOf, READING, related, type RelatedMore, TreesServer } from '../testing/trees-server'

let on: TreesServer
beforeAll(async () => {
  on = await TreesServer.start()
})
afterAll(() => on.close())

describe('a related figure', () => {
  test.each<[string, RelatedMore, (string | null)[]]>([
    ['counts', { take: 'count' }, ['2', '1', '0', '0']],
    ['counts what meets a condition', { take: 'count', where: 'Severity >= 2 and Reported < today()' }, ['1', '0', '0', '0']],
    ['is blank where nothing is found, if it says so', { take: 'count', none: 'blank' }, ['2', '1', null, null]],
    ['totals; of blanks alone there is no total', { take: 'sum', of: 'Severity' }, ['4', null, '0', '0']],
    ['takes a mean', { take: 'mean', of: 'Severity', none: 'blank' }, ['2', null, null, null]],
    ['takes a median', { take: 'median', of: 'Severity', none: 'blank' }, ['2', null, null, null]],
    ['takes the latest of dates', { take: 'max', of: 'Reported' }, ['2026-02-03', '2026-01-09', null, null]],
    ['takes the share that meets a condition', { take: 'share', where: 'Severity >= 3', none: 'blank' }, ['50', '0', null, null]],
    ['looks up the only one', { take: 'value', of: 'Report' }, [null, 'R3', null, null]],
  ])('%s', async (_, more, expected) => {
    const { trees, reports } = await on.tables()
    await on.add(trees, 'Found', related(trees, reports, more))
    expect(await on.valuesOf(trees, 'Found')).toEqual(expected)
  })

  test('follows what is corrected, added and removed there, and here', async () => {
    const { trees, reports } = await on.tables()
    await on.add(trees, 'Reports', related(trees, reports, { take: 'count' }))
    await on.change(trees, { kind: 'add figure', name: 'Twice', unit: '', feel: 'Reports * 2' })
    expect((await on.now(trees)).standsOn).toEqual([reports.id])
    expect(await on.cellsOf(trees, 'Reports', 'Twice')).toEqual([
      ['2', '4'],
      ['1', '2'],
      ['0', '0'],
      ['0', '0'],
    ])
    await on.set(reports, 4, 'Tree', 'T 3', ['T 9', null])
    expect(await on.valuesOf(trees, 'Twice')).toEqual(['4', '2', '2', '0'])
    const answer = await on.set(trees, 4, 'Tree no', 'T 1', ['T 4', null])
    expect(answer.table.figures).not.toBeNull()
    expect(await on.valuesOf(trees, 'Twice')).toEqual(['4', '2', '2', '4'])
    await on.change(reports, { kind: 'remove records', records: [1, 2] })
    expect(await on.valuesOf(trees, 'Twice')).toEqual(['0', '2', '2', '0'])
  })

  test('follows a correction where it is found by what is computed, by a number, a day, or a long text', async () => {
    const long = 'x'.repeat(4000)
    const trees = await bringIn(on.server, on.name('Keyed'), `Who,Number,Day,Text\nA,1.50,2026-03-02,${long}a\nB,2,2026-03-03,O'Neil\\\n`, ({ columns }) => {
      Object.assign(columns[2]!, { type: 'date' })
      Object.assign(columns[3]!, { type: 'text' })
    })
    const others = await bringIn(on.server, on.name('Others'), `Number,Day,Text\n1.5,2026-03-02,${long}a\n2.0,2026-03-03,${long}b\n2,2026-03-03,O'Neil\\\n3,2026-03-02,\n`, ({ columns }) => {
      Object.assign(columns[1]!, { type: 'date' })
      Object.assign(columns[2]!, { type: 'text' })
    })
    const { table } = await on.change(trees, { kind: 'add figure', name: 'One more', unit: '', feel: 'Number + 1' })
    const by = (own: string, theirs: string): Drawn => ({
      kind: 'related', table: others.id, keys: [{ own: idOf(table, own), theirs: idOf(others, theirs), part: 'whole' }], take: 'count', of: null, where: null, none: 'nothing',
    })
    for (const [own, theirs] of [['Number', 'Number'], ['Day', 'Day'], ['Text', 'Text'], ['One more', 'Number']] as const) await on.add(trees, `By ${own}`, by(own, theirs))
    const known = () => on.cellsOf(trees, 'By Number', 'By Day', 'By Text', 'By One more')
    expect(await known()).toEqual([
      ['1', '2', '1', '0'],
      ['2', '2', '1', '1'],
    ])
    await on.set(trees, 1, 'Number', '2.00', ['1.50', null])
    await on.set(trees, 1, 'Text', `${long}b`, [`${long}a`, null])
    await on.set(trees, 2, 'Day', '', ['2026-03-03', null])
    expect(await known()).toEqual([
      ['2', '2', '1', '1'],
      ['2', '0', '1', '1'],
    ])
    await on.set(trees, 2, 'Text', `${long}c`, ["O'Neil\\", null])
    expect((await known())[1]).toEqual(['2', '0', '0', '1'])
  })

  test('two tables can be drawn from one another, as long as no column needs itself', async () => {
    const { trees, reports } = await on.tables()
    await on.add(trees, 'Reports', related(trees, reports, { take: 'count' }))
    const withWard = await on.add(reports, 'Ward', {
      kind: 'related',
      table: trees.id,
      keys: [{ own: idOf(reports, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }],
      take: 'value',
      of: idOf(trees, 'Ward'),
      where: null,
      none: 'blank',
    })
    expect(await on.valuesOf(reports, 'Ward')).toEqual(['North', 'North', 'North', null, null])
    const known = await on.add(trees, 'From the north', related(trees, await on.now(reports), { take: 'count', where: 'Ward = "North"' }))
    expect(await on.cellsOf(trees, 'Reports', 'From the north')).toEqual([
      ['2', '2'],
      ['1', '1'],
      ['0', '0'],
      ['0', '0'],
    ])
    const ring = await on.asked(reports, {
      kind: 'change drawn',
      column: idOf(withWard, 'Ward'),
      name: 'Ward',
      unit: '',
      drawn: {
        kind: 'related',
        table: trees.id,
        keys: [{ own: idOf(reports, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }],
        take: 'value',
        of: idOf(known, 'From the north'),
        where: null,
        none: 'blank',
      },
    })
    expect([ring.status, ring.body.code, ring.body.message]).toEqual([
      422,
      'not-a-figure',
      expect.stringMatching(/ring: “Ward” of Reports \d+ needs “From the north” of Trees \d+ needs “Ward”/),
    ])
  })

  test('a name that becomes another carries through its condition; what is needed cannot be removed, nor its table', async () => {
    const { trees, reports } = await on.tables()
    await on.add(trees, 'Grave', related(trees, reports, { take: 'count', where: 'Severity >= 2' }))
    const severity = idOf(reports, 'Severity')
    await on.change(reports, { kind: 'change column', reading: READING, column: severity, settings: { name: 'How bad' } })
    expect(await on.valuesOf(trees, 'Grave')).toEqual(['1', '0', '0', '0'])
    expect((await on.now(trees)).columns.at(-1)!.drawn).toMatchObject({ where: 'How bad >= 2' })
    for (const column of [severity, idOf(reports, 'Tree')])
      expect(await on.asked(reports, { kind: 'remove column', column })).toMatchObject({
        status: 409,
        body: { message: expect.stringContaining(`Grave (${trees.name})`) },
      })
    expect(await on.server.ask('DELETE', `/tables/${reports.id}`)).toMatchObject({
      status: 409,
      body: { message: expect.stringContaining(`“Grave” of “${trees.name}”`) },
    })
    expect(await on.asked(trees, { kind: 'remove column', column: idOf(trees, 'Tree no') })).toMatchObject({ status: 409 })
  })

  test('what cannot be is refused, with what to do', async () => {
    const { trees, reports } = await on.tables()
    const whyNot = async (drawn: Drawn) => (await on.asked(trees, { kind: 'add drawn', name: 'No', unit: '', drawn })).body.message
    const plain = related(trees, reports, { take: 'count' }) as Drawn & { kind: 'related' }
    expect(await whyNot(related(trees, reports, { take: 'sum' }))).toContain('of which column')
    expect(await whyNot(related(trees, reports, { take: 'mean', of: 'Report' }))).toContain('a mean is of numbers')
    expect(await whyNot(related(trees, reports, { take: 'share' }))).toContain('what a record has to be')
    expect(await whyNot(related(trees, reports, { take: 'count', where: 'Severty > 2' }))).toContain('Severity')
    expect(await whyNot(related(trees, reports, { take: 'count', where: 'Severity' }))).toContain('true or false')
    expect(await whyNot({ ...plain, keys: [{ ...plain.keys[0]!, theirs: idOf(reports, 'Severity') }] })).toContain('never meet')
    expect(await whyNot({ ...plain, table: 999_999 })).toContain('is gone')
  })

  test('is taken back like any change', async () => {
    const { trees, reports } = await on.tables()
    const made = await on.add(trees, 'Found', related(trees, reports, { take: 'count' }))
    await on.change(trees, {
      kind: 'change drawn',
      column: made.columns.at(-1)!.id,
      name: 'Worst',
      unit: '',
      drawn: related(trees, reports, { take: 'max', of: 'Severity' }),
    })
    expect(await on.valuesOf(trees, 'Worst')).toEqual(['3', null, '0', '0'])
    await on.server.ask('POST', `/tables/${trees.id}/changes/${(await on.now(trees)).version}/undoing`, {})
    expect(await on.valuesOf(trees, 'Found')).toEqual(['2', '1', '0', '0'])
    await on.change(trees, { kind: 'remove column', column: made.columns.at(-1)!.id })
    await on.server.ask('POST', `/tables/${trees.id}/changes/${(await on.now(trees)).version}/undoing`, {})
    expect(await on.valuesOf(trees, 'Found')).toEqual(['2', '1', '0', '0'])
  })
})

test('while one chooses it is told what would come of it, and which keys meet nothing or several', async () => {
  const { trees, reports } = await on.tables()
  const preview = async (drawn: Drawn, record: number | null = null) =>
    (await on.server.ask('POST', `/tables/${trees.id}/drawn-previews`, { drawn, column: null, record })).body as object
  expect(await preview(related(trees, reports, { take: 'count', where: 'Severity > 0' }), 1)).toEqual({
    type: 'number',
    computed: 4,
    blank: 0,
    value: '2',
    spread: { kind: 'bins', from: '0', to: '2', bins: [3, ...new Array<number>(22).fill(0), 1] },
    keys: {
      alone: { records: 2, values: ['T 3', 'T 4'] },
      theirsAlone: { records: 1, values: ['T 9'] },
      twice: { records: 0, values: [] },
      theirsTwice: { records: 2, values: ['T 1'] },
    },
  })
  expect(await preview({ kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })).toMatchObject({
    computed: 3,
    blank: 1,
    keys: null,
  })
  expect(await preview(related(trees, reports, { take: 'count', where: 'Nowhere > 1' }))).toMatchObject({ code: 'not-a-figure' })
  expect((await on.now(trees)).columns).toHaveLength(4)
})

test('places and shares, among all and within a group, follow what is corrected', async () => {
  const { trees } = await on.tables()
  const [of, within] = [idOf(trees, 'Height'), idOf(trees, 'Ward')]
  await on.add(trees, 'Place', { kind: 'rank', of, within: null, first: 'highest' })
  await on.add(trees, 'Place in ward', { kind: 'rank', of, within, first: 'lowest' })
  await on.add(trees, 'Share', { kind: 'part', of, within })
  expect(await on.cellsOf(trees, 'Place', 'Place in ward', 'Share')).toEqual(
    [
      ['2', '1', '32.7868852459016393442622950819672131'],
      ['1', '2', '67.2131147540983606557377049180327869'],
      [null, null, null],
      ['3', '1', '100'],
    ].map((row) =>
      row.map((value) => (value === null || !value.includes('.') ? value : new Decimal(value).toSignificantDigits(34).toFixed())),
    ),
  )
  await on.set(trees, 3, 'Height', '20.5', [null, null])
  expect(await on.valuesOf(trees, 'Place')).toEqual(['3', '1', '1', '4'])
})

test('an indicator has a calculation of its own in each row', async () => {
  const { trees, reports } = await on.tables()
  const office = await bringIn(on.server, on.name('Office'), 'Indicator,Target\nTrees,5\nGrave reports,10\nMean severity,2\n')
  const look = { places: null, unit: '' }
  const calculations = [
    { record: 1, table: trees.id, take: 'count' as const, of: null, where: null, ...look },
    { record: 2, table: reports.id, take: 'share' as const, of: null, where: 'Severity >= 3', ...look },
    { record: 3, table: reports.id, take: 'mean' as const, of: idOf(reports, 'Severity'), where: null, ...look },
  ]
  await on.add(office, 'Value', { kind: 'own', calculations })
  await on.change(office, { kind: 'add figure', name: 'Off', unit: '', feel: 'Value - Target' })
  expect(await on.cellsOf(office, 'Value', 'Off')).toEqual([
    ['4', '-1'],
    ['40', '30'],
    ['2.75', '0.75'],
  ])
  await on.change(reports, { kind: 'remove records', records: [4] })
  expect(await on.valuesOf(office, 'Value')).toEqual(['4', '25', '2'])
})

test('a copy is drawn as its first is, from its own columns; labels are values there, since the gate is not bound to it', async () => {
  const { trees, reports } = await on.tables()
  const gate = await gateOn(on.server, trees, 'Height', ['15'], ['low', 'tall'])
  await on.add(trees, 'Reports', related(trees, reports, { take: 'count' }))
  await on.add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
  await on.add(trees, 'Place', { kind: 'rank', of: idOf(trees, 'Height'), within: null, first: 'highest' })
  await on.change(trees, { kind: 'add figure', name: 'Word', unit: '', feel: 'if Size = "tall" then "!" else "." ' })
  const { status, body } = await on.server.ask('POST', `/tables/${trees.id}/copies`)
  expect(status).toBe(201)
  const copy = body as Table
  expect(await on.cellsOf(copy, 'Reports', 'Size', 'Place', 'Word')).toEqual([
    ['2', 'low', '2', '.'],
    ['1', 'tall', '1', '!'],
    ['0', null, null, '.'],
    ['0', 'low', '3', '.'],
  ])
  expect(copy.columns.map(({ drawn }) => drawn?.kind ?? null)).toEqual([null, null, null, null, 'related', null, 'rank', null])
  await on.set(copy, 3, 'Height', '90', [null, null])
  expect(await on.valuesOf(copy, 'Place')).toEqual(['3', '2', '1', '4'])
  expect(await on.valuesOf(trees, 'Place')).toEqual(['2', '1', null, '3'])
  const { body: wards } = await on.server.ask('POST', `/tables/${trees.id}/roll-ups`, {
    name: on.name('Copied'),
    by: [{ column: idOf(trees, 'Ward'), part: 'whole' }],
    figures: [{ name: 'n', unit: '', take: 'count', of: null, where: null }],
  })
  const { body: again } = await on.server.ask('POST', `/tables/${(wards as Table).id}/copies`)
  expect(await on.cellsOf(again as Table, 'Ward', 'n')).toEqual([
    ['North', '2'],
    ['South', '1'],
    [null, '1'],
  ])
})

test('what the database cannot make is blank, and the rest of the table goes on', async () => {
  const { trees, reports } = await on.tables()
  await on.add(trees, 'Reports', related(trees, reports, { take: 'sum', of: 'Severity' }))
  await on.change(trees, { kind: 'add figure', name: 'Twice', unit: '', feel: '2 * Height' })
  // As no way in would leave it: a table from elsewhere, in which the values are texts by now.
  await on.server.database.query(`alter table records.t${reports.id} alter column c${idOf(reports, 'Severity')} type text`)
  await on.server.database.query('delete from figure_state')
  expect(await on.cellsOf(trees, 'Reports', 'Twice')).toEqual([
    [null, '20'],
    [null, '41'],
    [null, null],
    [null, '10'],
  ])
})

test('a record of a table with columns drawn from elsewhere tells its history, and stands as it stood in every version', async () => {
  const { trees, reports } = await on.tables()
  await on.add(trees, 'Reports', related(trees, reports, { take: 'count' }))
  await on.set(trees, 1, 'Height', '11', ['10', null])
  const { status, body } = await on.server.ask('GET', `/tables/${trees.id}/records/1/history`)
  expect([status, JSON.stringify(body).includes('"11"')]).toEqual([200, true])
  expect((await on.server.ask('POST', `/tables/${trees.id}/records`, { records: [1], version: 1 })).status).toBe(200)
})

test('a set that a condition elsewhere names carries its new name there, and cannot be taken away from under it', async () => {
  const { trees, reports } = await on.tables()
  const by = { kind: 'names' as const, like: 'Sever*' }
  await on.change(reports, { kind: 'column sets', sets: [{ name: 'Points', by }] })
  await on.add(trees, 'Grave', related(trees, await on.now(reports), { take: 'count', where: 'max(Points) > 2' }))
  expect((await on.asked(reports, { kind: 'column sets', sets: [] })).body).toMatchObject({ message: expect.stringContaining(`Grave (${trees.name})`) })
  await on.change(reports, { kind: 'column sets', sets: [{ name: 'Marks', by }] })
  expect((await on.now(trees)).columns.at(-1)!.drawn).toMatchObject({ where: 'max(Marks) > 2' })
  expect(await on.valuesOf(trees, 'Grave')).toEqual(['1', '0', '0', '0'])
})
