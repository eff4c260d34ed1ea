/** Which columns of a table are shown, in which order and how wide: the reader's choice, remembered on this machine. */
import type { Column } from '@dime-gate/contract/table'
import { z } from 'zod'

const choiceSchema = z.object({
  /** Ids in the order chosen; columns that came later stand behind them. */
  order: z.array(z.int()),
  hidden: z.array(z.int()),
  /** In pixels, by id. */
  widths: z.record(z.string(), z.number()),
})
export type ColumnChoice = z.infer<typeof choiceSchema>

export const NO_CHOICE: ColumnChoice = { order: [], hidden: [], widths: {} }
export const NARROWEST = 56
export const WIDEST = 800

const keyOf = (tableId: number) => `columns of table ${tableId}`

export function rememberedChoice(tableId: number, storage: Pick<Storage, 'getItem'>): ColumnChoice {
  try {
    return choiceSchema.parse(JSON.parse(storage.getItem(keyOf(tableId)) ?? 'null'))
  } catch {
    return NO_CHOICE
  }
}

export function rememberChoice(tableId: number, choice: ColumnChoice, storage: Pick<Storage, 'setItem'>): void {
  try {
    storage.setItem(keyOf(tableId), JSON.stringify(choice))
  } catch {
    // Where nothing can be remembered, the choice holds as long as the page is open.
  }
}

/** In the order chosen; those that tell who a record is come first in any case. */
export function shownColumns(columns: readonly Column[], { order, hidden }: ColumnChoice): Column[] {
  const placeOf = (column: Column) => {
    const place = order.indexOf(column.id)
    return place < 0 ? order.length + columns.indexOf(column) : place
  }
  const shown = columns.filter(({ id }) => !hidden.includes(id)).toSorted((one, other) => placeOf(one) - placeOf(other))
  return [...shown.filter(({ isIdentity }) => isIdentity), ...shown.filter(({ isIdentity }) => !isIdentity)]
}

/** A column one place further to the left or right among those that are shown. */
export function movedColumn(columns: readonly Column[], choice: ColumnChoice, id: number, by: -1 | 1): ColumnChoice {
  const ids = shownColumns(columns, choice).map((column) => column.id)
  const at = ids.indexOf(id)
  const to = at + by
  if (at < 0 || to < 0 || to >= ids.length) return choice
  ;[ids[at], ids[to]] = [ids[to]!, ids[at]!]
  return { ...choice, order: ids }
}

export function widened(choice: ColumnChoice, id: number, pixels: number): ColumnChoice {
  return { ...choice, widths: { ...choice.widths, [id]: Math.round(Math.max(NARROWEST, Math.min(WIDEST, pixels))) } }
}

export function hiddenToo(choice: ColumnChoice, id: number): ColumnChoice {
  return { ...choice, hidden: [...choice.hidden.filter((one) => one !== id), id] }
}

export function shownAgain(choice: ColumnChoice, id: number): ColumnChoice {
  return { ...choice, hidden: choice.hidden.filter((one) => one !== id) }
}
