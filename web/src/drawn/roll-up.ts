/** By which columns a table can be rolled up, and what is asked for then. */
import type { Calculation, KeyPart } from '@dime-gate/contract/drawn'
import type { RollUpRequest } from '@dime-gate/contract/roll-up'
import type { Column, Table } from '@dime-gate/contract/table'

export interface GroupFigure {
  name: string
  calculation: Calculation
}

export interface GroupChoice {
  value: string
  words: string
  column: number
  part: KeyPart
}

/** Texts first: groups are rarely by a figure, and never by who somebody is. */
export function groupChoices(columns: readonly Column[]): GroupChoice[] {
  const of = ({ id, name }: Column, part: KeyPart = 'whole'): GroupChoice => ({
    value: `${id} ${part}`,
    words: part === 'whole' ? name : `${name}, by ${part}`,
    column: id,
    part,
  })
  const weight = ({ type, isIdentity }: Column) => (isIdentity ? 3 : type === 'text' || type === 'boolean' ? 0 : type === 'date' ? 1 : 2)
  return columns
    .toSorted((a, b) => weight(a) - weight(b))
    .flatMap((column) => (column.type === 'date' ? [of(column, 'year'), of(column, 'month'), of(column)] : [of(column)]))
}

export function beginGroup(table: string, choices: readonly GroupChoice[], chosen: readonly string[]): string {
  const words = choices.filter(({ value }) => chosen.includes(value)).map((one) => one.words)
  return words.length === 0 ? '' : `${table} by ${words.join(' and ').toLowerCase()}`.slice(0, 120)
}

export function rollUpRequest(
  table: Pick<Table, 'columns'>,
  name: string,
  choices: readonly GroupChoice[],
  chosen: readonly string[],
  figures: readonly GroupFigure[],
): RollUpRequest {
  const unitOf = ({ take, of }: Calculation) => (take === 'share' ? '%' : (table.columns.find(({ id }) => id === of)?.unit ?? ''))
  return {
    name: name.trim(),
    by: chosen.flatMap((value) => choices.filter((one) => one.value === value).map(({ column, part }) => ({ column, part }))),
    figures: figures.map(({ name: column, calculation }) => ({
      name: column.trim(),
      unit: unitOf(calculation),
      take: calculation.take,
      of: calculation.of,
      where: calculation.where?.trim() ? calculation.where.trim() : null,
    })),
  }
}
