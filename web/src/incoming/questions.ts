/** What a file leaves open: it is asked before anything of it is stored. */
import type { FileLook } from '@dime-gate/contract/table'
import type { Choice } from './file-on-its-way'

export interface Example {
  record: number
  text: string
}

export type Question =
  /** Dates that read either way, and none that reads one way alone. */
  | { kind: 'dates'; column: number; either: number; example: Example }
  /** Bare numbers of a column of percents that could be parts of one, beside others that say what they are, or all of them. */
  | { kind: 'percents'; column: number; bare: number; signed: number; example: Example }

/** @returns those that are still open */
export function questionsOf({ settings, statistics }: FileLook, { format, columns: chosen }: Choice): Question[] {
  if (!statistics) return []
  const open: Question[] = []
  statistics.columns.forEach(({ dates, percents }, column) => {
    if (settings.columns[column]!.isLeftOut) return
    if (dates && dates.either > 0 && dates.dayFirst === 0 && dates.monthFirst === 0 && format.dateOrder === undefined) {
      open.push({ kind: 'dates', column, either: dates.either, example: dates.examples[0]! })
    }
    if (percents && percents.upToOne > 0 && chosen[column]?.fraction === undefined && (percents.signed > 0 || percents.overOne === 0)) {
      const example =
        percents.examples.find(({ text }) => !text.trim().endsWith('%') && Number(text.replace(',', '.')) !== 0) ?? percents.examples[0]!
      open.push({ kind: 'percents', column, bare: percents.upToOne + percents.overOne, signed: percents.signed, example })
    }
  })
  // All dates of a file are in one order, so they are asked about once.
  const first = open.findIndex(({ kind }) => kind === 'dates')
  return open.filter(({ kind }, at) => kind !== 'dates' || at === first)
}
