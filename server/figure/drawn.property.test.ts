import type { Take } from '@dime-gate/contract/drawn'
import type { Column, Table, TableRecord } from '@dime-gate/contract/table'
import { Decimal } from '@dime-gate/core/value/number'
import fc from 'fast-check'
import { rowsOf } from '../database/database'
import { bringIn } from '../testing/bring-in'
import { gateOn } from '../testing/gate-on'
import { idOf, TreesServer } from '../testing/trees-server'

let on: TreesServer
beforeAll(async () => {
  on = await TreesServer.start()
})
afterAll(() => on.close())

describe('against SQL written by hand', () => {
  const numbers = fc.oneof(
    { weight: 4, arbitrary: fc.integer({ min: -999, max: 999 }).map((n) => String(n / 100)) },
    { weight: 1, arbitrary: fc.constant('') },
  )
  const key = fc.constantFrom('a', 'b', 'c', 'A', '')
  const rows = (most: number) => fc.array(fc.tuple(key, numbers), { minLength: 1, maxLength: most })

  test('related figures, roll-ups, places and shares of random tables with blanks, to the last digit', async () => {
    await fc.assert(
      fc.asyncProperty(rows(12), rows(30), async (ours, theirs) => {
        const text = (all: [string, string][]) => `Who,Key,Value\n${all.map((row, at) => [`w${at}`, ...row].join(',')).join('\n')}\n`
        const typed = ({ columns }: { columns: { type: Column['type'] }[] }) => {
          columns[1]!.type = 'text'
          columns[2]!.type = 'number'
        }
        const [one, other] = [
          await bringIn(on.server, on.name('One'), text(ours), typed),
          await bringIn(on.server, on.name('Other'), text(theirs), typed),
        ]
        const takes: Take[] = ['count', 'sum', 'mean', 'median', 'min', 'max', 'share']
        const of = idOf(other, 'Value')
        const keys = [{ own: idOf(one, 'Key'), theirs: idOf(other, 'Key'), part: 'whole' as const }]
        for (const take of takes)
          await on.add(one, take, {
            kind: 'related',
            table: other.id,
            keys,
            take,
            of: take === 'count' || take === 'share' ? null : of,
            where: take === 'share' ? 'Value > 0' : null,
            none: 'blank',
          })
        await on.add(one, 'place', { kind: 'rank', of: idOf(one, 'Value'), within: idOf(one, 'Key'), first: 'highest' })
        const [t, o] = [(id: number) => `c${id}`, (name: string) => `c${idOf(other, name)}`]
        const v = o('Value')
        const byHand = await rowsOf<{ all: (string | null)[] }>(
          on.server.database,
          `
          select array[count(o.record)::text, sum(o.${v})::text, (sum(o.${v}) * 1.${'0'.repeat(60)} / nullif(count(o.${v}), 0))::text,
            ((array_agg(o.${v} order by o.${v}) filter (where o.${v} is not null))[(count(o.${v}) + 1) / 2] + (array_agg(o.${v} order by o.${v}) filter (where o.${v} is not null))[count(o.${v}) / 2 + 1])::text,
            min(o.${v})::text, max(o.${v})::text, (count(*) filter (where o.${v} > 0) * 100.${'0'.repeat(60)} / nullif(count(o.record), 0))::text,
            (select count(*) + 1 from records.t${one.id} h where h.${t(idOf(one, 'Key'))} is not distinct from m.${t(idOf(one, 'Key'))} and h.${t(idOf(one, 'Value'))} > m.${t(idOf(one, 'Value'))})::text, m.${t(idOf(one, 'Value'))}::text] as all
          from records.t${one.id} m left join records.t${other.id} o on o.${o('Key')} = m.${t(idOf(one, 'Key'))} group by m.record, m.${t(idOf(one, 'Key'))}, m.${t(idOf(one, 'Value'))} order by m.record`,
        )
        const plain = (value: string | null, by = 1) =>
          value === null ? null : new Decimal(value).dividedBy(by).toSignificantDigits(34).toFixed()
        const expected = byHand.map(({ all: [count, sum, mean, middle, min, max, share, place, own] }) => [
          count === '0' ? null : count!,
          plain(sum!),
          plain(mean!),
          plain(middle!, 2),
          plain(min!),
          plain(max!),
          count === '0' ? null : plain(share!),
          own === null ? null : place!,
        ])
        const found = (await on.cellsOf(one, ...takes, 'place')).map((row) => row.map((value) => plain(value)))
        expect(found).toEqual(expected)
        const { body: groups } = await on.server.ask('POST', `/tables/${other.id}/roll-ups`, {
          name: on.name('By key'),
          by: [{ column: idOf(other, 'Key'), part: 'whole' }],
          figures: [
            { name: 'n', unit: '', take: 'count', of: null, where: null },
            { name: 's', unit: '', take: 'sum', of, where: null },
          ],
        })
        const rolled = await rowsOf<{ key: string | null; n: string; s: string | null }>(
          on.server.database,
          `select ${o('Key')} as key, count(*)::text as n, sum(${v})::text as s from records.t${other.id} group by 1`,
        )
        const order = (all: (string | null)[][]) => all.map((row) => JSON.stringify(row)).sort()
        expect(order(await on.cellsOf(groups as Table, 'Key', 'n', 's'))).toEqual(order(rolled.map(({ key: k, n, s }) => [k, n, plain(s)])))
      }),
      { numRuns: 8 },
    )
  }, 180_000)
})

test('what is computed of a change alone is what computing everything anew comes to', async () => {
  const trees = await bringIn(
    on.server,
    on.name('Kept trees'),
    `Tree no,Ward,Height\n${Array.from({ length: 8 }, (_, at) => `T ${at},${'NSW'[at % 3]!},${at}`).join('\n')}\n`,
    ({ columns }) => (columns[0]!.isIdentity = true),
  )
  const reports = await bringIn(
    on.server,
    on.name('Kept reports'),
    `Report,Tree,Severity\n${Array.from({ length: 12 }, (_, at) => `R${at},T ${(at * 5) % 9},${at % 4}`).join('\n')}\n`,
  )
  const gate = await gateOn(on.server, trees, 'Height', ['3'], ['low', 'tall'])
  const keys = [{ own: idOf(trees, 'Tree no'), theirs: idOf(reports, 'Tree'), part: 'whole' as const }]
  await on.add(trees, 'Severe', {
    kind: 'related',
    table: reports.id,
    keys,
    take: 'sum',
    of: idOf(reports, 'Severity'),
    where: 'Severity > 1',
    none: 'nothing',
  })
  await on.add(trees, 'Size', { kind: 'label', gate: gate.id, from: 'version', outcome: 0 })
  const table = (
    await on.change(trees, { kind: 'add figure', name: 'Score', unit: '', feel: 'if Size = "tall" then Severe + Height else Severe' })
  ).table
  const visits = await bringIn(on.server, on.name('Kept visits'), `Visit,Tree\n${Array.from({ length: 12 }, (_, at) => `V${at},T ${(at * 5) % 9}`).join('\n')}\n`)
  // The trees are drawn from the reports, and those from the trees, yet no column needs itself.
  for (const beside of [visits, reports])
    await on.add(beside, 'Of a tall tree', {
      kind: 'related',
      table: trees.id,
      keys: [{ own: idOf(beside, 'Tree'), theirs: idOf(trees, 'Tree no'), part: 'whole' }],
      take: 'value',
      of: idOf(table, 'Size'),
      where: null,
      none: 'blank',
    })
  const wards = (
    await on.server.ask('POST', `/tables/${trees.id}/roll-ups`, {
      name: on.name('Kept wards'),
      by: [{ column: idOf(trees, 'Ward'), part: 'whole' }],
      figures: [
        { name: 'Score', unit: '', take: 'sum', of: idOf(table, 'Score'), where: null },
        { name: 'Tall', unit: '%', take: 'share', of: null, where: 'Size = "tall"' },
      ],
    })
  ).body as Table
  await on.change(wards, { kind: 'add figure', name: 'Score and tall', unit: '', feel: 'Score + Tall' })
  const all = async () => [
    await on.cellsOf(trees, 'Severe', 'Size', 'Score'),
    await on.cellsOf(visits, 'Of a tall tree'),
    await on.cellsOf(reports, 'Of a tall tree'),
    (await on.cellsOf(wards, 'Ward', 'Score', 'Tall', 'Score and tall')).map((row) => JSON.stringify(row)).sort(),
  ]
  const edits = fc.oneof(
    fc.record({
      of: fc.constant('trees' as const),
      record: fc.integer({ min: 1, max: 8 }),
      column: fc.constantFrom('Tree no', 'Ward', 'Height'),
      text: fc.constantFrom('T 1', 'T 2', 'N', 'S', 'E', '', '2', '9', 'x'),
      isLookedAt: fc.boolean(),
    }),
    fc.record({
      of: fc.constant('reports' as const),
      record: fc.integer({ min: 1, max: 12 }),
      column: fc.constantFrom('Tree', 'Severity'),
      text: fc.constantFrom('T 1', 'T 8', '', '3', '0'),
      isLookedAt: fc.boolean(),
    }),
  )
  await fc.assert(
    fc.asyncProperty(fc.array(edits, { minLength: 1, maxLength: 4 }), async (some) => {
      for (const { of, record, column, text, isLookedAt } of some) {
        // What is looked at in between is as it was then, and is carried on from there.
        if (isLookedAt) await all()
        const changed = of === 'trees' ? trees : reports
        const { body } = await on.server.ask('POST', `/tables/${changed.id}/records`, { records: [record] })
        await on.set(
          changed,
          record,
          column,
          text,
          (body as TableRecord[])[0]!.cells[changed.columns.findIndex(({ name }) => name === column)]!,
        )
      }
      const kept = await all()
      await on.server.database.query('delete from figure_state')
      expect(await all()).toEqual(kept)
    }),
    { numRuns: 12 },
  )
}, 120_000)
