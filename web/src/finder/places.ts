/** Everything that has a place of its own, to be found by its name. */
import type { Desk } from '@dime-gate/contract/desk'
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
]

export function placesOf({ tables, gates, runs }: Pick<Desk, 'tables' | 'gates' | 'runs'>): Found[] {
  return [
    ...gates.map(({ id, name, tables: on }): Found => ({ words: name, detail: on[0] ? `gate on ${on[0].name}` : 'gate', path: `/gates/${id}` })),
    ...tables.map(({ id, name, records }): Found => ({ words: name, detail: `table, ${counted(records, 'record')}`, path: `/tables/${id}` })),
    ...runs.map((run): Found => ({ words: runTitle(run), detail: `run on ${run.tableName}`, path: `/runs/${run.id}` })),
    ...SHELVES,
  ]
}
