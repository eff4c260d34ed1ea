import type { Direction } from '@dime-gate/core/table/in-order'

/** By the values of a column, or as the records stand in the table. */
export type Order = null | { column: number; direction: Direction }
