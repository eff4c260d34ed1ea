/** Changes of a table in words. */
import type { TableChangeMade } from '@dime-gate/contract/change'
import { counted } from '../shared/format'

const MOST_NAMED = 3

export function changeWords({ kind, records, columns, undoes }: TableChangeMade): string {
  if (undoes !== null) return `Version ${undoes} taken back`
  const named =
    columns.length > MOST_NAMED ? `${columns.slice(0, MOST_NAMED).join(', ')} and ${columns.length - MOST_NAMED} more` : columns.join(', ')
  const many = counted(records, 'record')
  switch (kind) {
    case 'values':
      return `${named} changed in ${many}`
    case 'fill':
      return `${named} filled in ${many}`
    case 'add records':
      return `${many} added`
    case 'remove records':
      return `${many} removed`
    case 'add column':
      return `${named} added`
    case 'change column':
      return `${named} set otherwise`
    case 'remove column':
      return `${named} removed`
    case 'add figure':
    case 'add drawn':
      return `Figure ${named} added`
    case 'change figure':
    case 'change drawn':
      return `Figure ${named} computed otherwise`
    case 'column sets':
      return 'Sets of columns changed'
    case 'append':
      return `A file added to ${many}`
    case 'replace':
      return `A file in place of what was there: ${many} met`
  }
}
