/** The records that are in a group, as a list of the table beneath. */
import type { Filter, Listing } from '@dime-gate/contract/change'
import type { Cell, Column, RollUp } from '@dime-gate/contract/table'

/** @param columns those of the table of groups. @param cells of one of its records */
export function groupListing({ by }: RollUp, columns: readonly Pick<Column, 'id'>[], cells: readonly Cell[]): Listing {
  const filters = by.map(({ column, part, own }): Filter => {
    const value = cells[columns.findIndex(({ id }) => id === own)]?.[0] ?? null
    if (value === null) return { kind: 'blank', column }
    if (part === 'whole') return { kind: 'values', column, values: [value] }
    return part === 'year'
      ? { kind: 'range', column, low: `${value}-01-01`, high: `${value}-12-31` }
      : { kind: 'range', column, low: `${value}-01`, high: lastDay(value) }
  })
  return { filters, sorts: [] }
}

/** @param month as 2026-02 */
function lastDay(month: string): string {
  const [year, number] = month.split('-').map(Number)
  return `${month}-${String(new Date(Date.UTC(year!, number!, 0)).getUTCDate()).padStart(2, '0')}`
}
