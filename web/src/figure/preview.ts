/** What a figure would come to, as it is being written: made by the worker on the columns that are there. */
import type { Column as TableColumn, SetOfColumns } from '@dime-gate/contract/table'
import { columnSets, tableFigures } from '@dime-gate/contract/table-figures'
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { parseExpression } from '@dime-gate/core/expression/parse'
import type { Node } from '@dime-gate/core/expression/tree'
import { FigureValues, type Nothing } from '@dime-gate/core/figure/compute'
import type { FigureTrouble } from '@dime-gate/core/figure/figure'
import { figureTroubleWords } from '@dime-gate/core/figure/figure-words'
import { workingText } from '@dime-gate/core/figure/working'
import { type Histogram, histogram } from '@dime-gate/core/table/histogram'
import type { Column } from '@dime-gate/core/table/table'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { DateValue, ValueKind } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'

/** The columns of a table, with the figure in it as it is now. */
export interface FigureAsked {
  columns: TableColumn[]
  sets: SetOfColumns[]
  /** The figure's name. */
  name: string
  asOf: string
  /** The record in focus; null where there is none. */
  record: number | null
  /** A date of which the length up to today is told in every way; null for none. */
  since: string | null
}

export interface FigurePreview {
  kind: ValueKind
  computed: number
  /** Records that it was computed for: the first ones, where all would take too long. */
  of: number
  spread: Histogram | null
  /** The commonest values, where it is no number. */
  common: { value: string; records: number }[]
  nothing: { words: string; records: number }[]
  working: Working | null
}

export interface Working {
  /** The expression with the record's values put in. */
  text: string
  /** Null where it came to nothing. */
  result: string | null
  /** Why it came to nothing. */
  why: string | null
  /** The same length of time in other words, so that nobody is robbed of months unseen. */
  lengths: { years: string; months: string; days: string } | null
}

export type Previewed = FigurePreview | { trouble: { words: string; from: number | null; to: number | null } }

/** Milliseconds that a preview may take where it goes record by record. */
const LONGEST = 120
/** Records that came to nothing of which is told why, at most. */
const MOST_ASKED = 2000
const MOST_TOLD = 4
const MOST_COMMON = 5

/** What has to be there before it can be previewed; or what is wrong. */
export function neededColumns({ columns, sets, name }: Pick<FigureAsked, 'columns' | 'sets' | 'name'>): TableColumn[] | FigureTrouble {
  const { figures, troubles } = tableFigures({ columns, sets })
  const trouble = troubles.get(name)
  if (trouble) return trouble
  const { needs } = figures.find((figure) => figure.name === name)!
  return columns.filter((column) => needs.includes(column.name))
}

/** @param records their numbers, ascending. @param columnOf the values of a column by its id */
export function previewFigure(
  { columns, sets, name, asOf, record, since }: FigureAsked,
  records: Int32Array,
  columnOf: (id: number) => Column,
): Previewed {
  const { figures, troubles } = tableFigures({ columns, sets })
  const trouble = troubles.get(name)
  if (trouble) return { trouble: troubleWords(trouble) }
  const figure = figures.find((one) => one.name === name)!
  const own = figures.filter((one) => one.needs.every((need) => figure.needs.includes(need)))
  const idOf = new Map(columns.map((column) => [column.name, column.id]))
  const values = new FigureValues(own, columnSets({ columns, sets }), records.length, (need) => columnOf(idOf.get(need)!), parseDate(asOf)!)
  const end = performance.now() + LONGEST
  const { doubles, has, of } = values.quickly(name, () => performance.now() < end)
  let computed = 0
  const nothing: number[] = []
  for (let at = 0; at < of; at++) {
    if (has(at)) computed++
    else nothing.push(at)
  }
  const place = record === null ? -1 : placeOf(records, record)
  return {
    kind: figure.kind,
    computed,
    of,
    spread: doubles && histogram(doubles),
    common: doubles ? [] : commonest(values, name, of),
    nothing: reasons(nothing, (at) => values.nothingAt(name, at)),
    working:
      place < 0
        ? null
        : {
            ...workingAt(values, figure.tree, name, place),
            lengths: since === null ? null : lengthsAt(values, since, place, parseDate(asOf)!),
          },
  }
}

function troubleWords(trouble: FigureTrouble): { words: string; from: number | null; to: number | null } {
  const span = trouble.code === 'expression' ? trouble.problem : null
  return { words: figureTroubleWords(trouble), from: span?.from ?? null, to: span?.to ?? null }
}

function placeOf(records: Int32Array, record: number): number {
  let [low, high] = [0, records.length - 1]
  while (low <= high) {
    const middle = (low + high) >>> 1
    if (records[middle] === record) return middle
    if (records[middle]! < record) low = middle + 1
    else high = middle - 1
  }
  return -1
}

function commonest(values: FigureValues, name: string, of: number): { value: string; records: number }[] {
  const counts = new Map<string, number>()
  for (let at = 0; at < of; at++) {
    const value = values.valueAt(name, at)
    if (value !== null) counts.set(textOfValue(value), (counts.get(textOfValue(value)) ?? 0) + 1)
  }
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_COMMON)
    .map(([value, records]) => ({ value, records }))
}

/** The commonest first. Of very many only some are asked, and the others are taken to be like them. */
function reasons(places: readonly number[], why: (at: number) => Nothing): FigurePreview['nothing'] {
  const asked = places.slice(0, MOST_ASKED)
  const counts = new Map<string, number>()
  for (const at of asked) {
    const words = nothingWords(why(at))
    counts.set(words, (counts.get(words) ?? 0) + 1)
  }
  const scale = places.length / Math.max(1, asked.length)
  const told = [...counts].sort((a, b) => b[1] - a[1]).map(([words, records]) => ({ words, records: Math.round(records * scale) }))
  if (told.length <= MOST_TOLD) return told
  const rest = told.slice(MOST_TOLD - 1)
  return [...told.slice(0, MOST_TOLD - 1), { words: 'for other reasons', records: rest.reduce((sum, one) => sum + one.records, 0) }]
}

const SHORTFALLS: Record<Extract<Nothing, { shortfall: string }>['shortfall'], string> = {
  'division-by-zero': 'divided by 0',
  'out-of-range': 'beyond what can be reckoned',
  'wrong-kind': 'a value of another kind',
  'no-result': 'no value to take it of',
  'too-much': 'too long a reckoning',
}

export function nothingWords(nothing: Nothing): string {
  if ('shortfall' in nothing) return SHORTFALLS[nothing.shortfall]
  const { missing } = nothing
  if (missing.length === 0) return 'nothing comes of it'
  const named = missing.length > 3 ? [...missing.slice(0, 2), `${missing.length - 2} more`] : missing
  return `no ${named.length === 1 ? named[0]! : `${named.slice(0, -1).join(', ')} and ${named.at(-1)!}`}`
}

const LENGTH_FEELS = [
  'years and months duration(since, today()).years',
  'years and months duration(since, today()).months',
  '(today() - since).days',
].map((feel) => parseExpression(feel, ['since']) as { tree: Node })

function lengthsAt(values: FigureValues, since: string, at: number, today: DateValue): Working['lengths'] {
  const value = values.givenAt(at)(since)
  if (value === null) return null
  const [years, months, days] = LENGTH_FEELS.map(({ tree }) => textOfValue(evaluate(tree, { value: () => value, today })))
  return { years: years!, months: months!, days: days! }
}

function workingAt(values: FigureValues, tree: Node, name: string, at: number): Omit<Working, 'lengths'> {
  const value = values.valueAt(name, at)
  return {
    text: workingText(tree, values.givenAt(at)),
    result: value === null ? null : textOfValue(value),
    why: value === null ? nothingWords(values.nothingAt(name, at)) : null,
  }
}
