/** What of a table is listed, and in which order: said in the address, so that it can be sent, and comes back with a reload. */
import { type Filter, type Listing, listingSchema } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { date, number } from '../shared/format'

export const WHOLE: Listing = { filters: [], sorts: [] }

/** @returns null for a listing of everything, which needs no words in the address */
export function listingText({ filters, sorts }: Listing): string | null {
  return filters.length === 0 && sorts.length === 0 ? null : JSON.stringify({ filters, sorts })
}

export function listingOf(text: unknown): Listing {
  try {
    return listingSchema.parse(JSON.parse(typeof text === 'string' ? text : 'null'))
  } catch {
    return WHOLE
  }
}

/** Sorted by a column: alone, or behind those that are there. A column goes from rising to falling to not at all. */
export function sortedBy({ filters, sorts }: Listing, column: number, isFurther: boolean): Listing {
  const before = sorts.find((one) => one.column === column)
  const next = !before
    ? ([{ column, direction: 'rising' }] as const)
    : before.direction === 'rising'
      ? ([{ column, direction: 'falling' }] as const)
      : []
  if (!isFurther) return { filters, sorts: [...next] }
  const others = sorts.filter((one) => one.column !== column)
  return { filters, sorts: before && next.length > 0 ? sorts.map((one) => (one.column === column ? next[0]! : one)) : [...others, ...next] }
}

/** One filter of a kind for each column: a new one takes the place of the one before. */
export function filteredBy({ filters, sorts }: Listing, filter: Filter): Listing {
  return { sorts, filters: [...filters.filter((one) => keyOf(one) !== keyOf(filter)), filter] }
}

export function unfilteredBy({ filters, sorts }: Listing, filter: Filter): Listing {
  return { sorts, filters: filters.filter((one) => one !== filter) }
}

/** What is sought in any column; the empty text where nothing is. */
export function foundText({ filters }: Listing): string {
  const found = filters.find(({ kind }) => kind === 'found')
  return found && 'text' in found ? found.text : ''
}

/** Sought otherwise; by a text of white space alone, not at all. */
export function foundBy(listing: Listing, sought: string): Listing {
  const text = sought.trim()
  const others = { ...listing, filters: listing.filters.filter(({ kind }) => kind !== 'found') }
  return text === '' ? others : filteredBy(others, { kind: 'found', text })
}

function keyOf(filter: Filter): string {
  return filter.kind === 'found'
    ? 'found'
    : `${filter.column} ${filter.kind === 'range' || filter.kind === 'values' || filter.kind === 'contains' ? 'value' : filter.kind}`
}

export function filterWords(filter: Filter, columns: readonly Column[]): string {
  if (filter.kind === 'found') return `“${filter.text}” anywhere`
  const column = columns.find(({ id }) => id === filter.column)
  const name = column?.name ?? 'a column that is gone'
  const value = (text: string) => (column?.type === 'date' ? date(text) : column && column.type !== 'text' ? number(text) : text)
  switch (filter.kind) {
    case 'values':
      return `${name}: ${filter.values.map((text) => (text === '' ? 'blank' : value(text))).join(', ')}`
    case 'range':
      if (filter.low !== null && filter.high !== null) return `${name} from ${value(filter.low)} to ${value(filter.high)}`
      return filter.low !== null ? `${name} from ${value(filter.low)}` : `${name} up to ${value(filter.high!)}`
    case 'contains':
      return `${name} has “${filter.text}”`
    case 'blank':
      return `${name} blank`
    case 'unreadable':
      return `${name} unreadable`
    case 'outside':
      return `${name} outside what is expected`
  }
}
