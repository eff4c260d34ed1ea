/** Everything that has a place of its own, to be found by its name. */
import type { Desk } from '@dime-gate/contract/desk'
import type { FoundRecord } from '@dime-gate/contract/found'
import { HELP_PAGES } from '../help/help-pages'
import { listingText } from '../listing/listing'
import { counted } from '../shared/format'
import { runTitle } from '../shared/words'

export interface Found {
  words: string
  detail: string
  /** Of a place its address. */
  path?: string
}

export const SHELVES: Found[] = [
  { words: 'Desk', detail: 'place', path: '/' },
  { words: 'All tables', detail: 'place', path: '/tables' },
  { words: 'All gates', detail: 'place', path: '/gates' },
  { words: 'All runs', detail: 'place', path: '/runs' },
  { words: 'Review', detail: 'place, exceptions one at a time', path: '/review' },
  ...HELP_PAGES.map(({ name, title, about }): Found => ({ words: `Help: ${title}`, detail: about, path: `/help/${name}` })),
]

export function placesOf({ tables, gates, runs }: Pick<Desk, 'tables' | 'gates' | 'runs'>): Found[] {
  return [
    ...gates.map(({ id, name, tables: on }): Found => ({ words: name, detail: on[0] ? `gate on ${on[0].name}` : 'gate', path: `/gates/${id}` })),
    ...tables.map(({ id, name, records }): Found => ({ words: name, detail: `table, ${counted(records, 'record')}`, path: `/tables/${id}` })),
    ...runs.map((run): Found => ({ words: runTitle(run), detail: `run on ${run.tableName}`, path: `/runs/${run.id}` })),
    ...SHELVES,
  ]
}

/** A record, in its table; and as an exception, where it is one. */
export function recordPlaces(found: readonly FoundRecord[]): Found[] {
  return found.flatMap(({ tableId, tableName, column, columnName, value, isException }): Found[] => {
    const list = listingText({ filters: [{ kind: 'contains', column, text: value }], sorts: [] })!
    return [
      { words: value, detail: `record of ${tableName}, by ${columnName}`, path: `/tables/${tableId}?list=${encodeURIComponent(list)}` },
      ...(isException ? [{ words: value, detail: `exceptions, ${tableName}`, path: `/review?table=${tableId}&shows=all&text=${encodeURIComponent(value)}` }] : []),
    ]
  })
}
