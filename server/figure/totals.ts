/** What the figures of a table of groups come to over all groups at once. */
import type { Totals } from '@dime-gate/contract/roll-up'
import type { Table } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { parseDate } from '@dime-gate/core/value/temporal'
import { type Database, rowOf } from '../database/database'
import { recordsWithFigures } from '../table/relation'
import { findTable } from '../table/tables'
import { calculated } from './drawn-sql'
import { currentDay } from './stored-figures'

/** None for a table that is no roll-up: the total of other tables' records would count some of them twice. */
export async function totalsOf(database: Database, table: Table): Promise<Totals> {
  const { rollUp } = table
  if (!rollUp) return []
  const beneath = await findTable(database, rollUp.table)
  const there = { table: beneath, from: recordsWithFigures(beneath) }
  const today = parseDate(await currentDay(database))!
  const totals: Totals = []
  for (const { id, type, drawn } of table.columns) {
    if (drawn?.kind !== 'related' || drawn.table !== rollUp.table || !isNumeric(type)) continue
    totals.push({
      column: id,
      value: (await rowOf<{ v: string | null }>(database, `select trim_scale((${calculated(there, drawn, today)})::numeric)::text as v`))!
        .v,
    })
  }
  return totals
}
