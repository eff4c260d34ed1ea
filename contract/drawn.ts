/** Columns whose values are drawn from elsewhere: from records of another table, from all records of their own, or from a gate. */
import { z } from 'zod'
import type { ColumnType } from '@dime-gate/core/value/read-cell'

const LONGEST_CONDITION = 20_000

const id = z
  .int()
  .positive()
  .max(2 ** 31 - 1)

/** What is taken of the records that are found. `value` is that of the only one; of several nobody can say which is meant. */
export const TAKES = ['count', 'sum', 'mean', 'median', 'min', 'max', 'share', 'value'] as const
export type Take = (typeof TAKES)[number]

/** Those that are of a column; a count and a share are of records. */
export const TAKES_OF_COLUMN: readonly Take[] = ['sum', 'mean', 'median', 'min', 'max', 'value']

/** What of a key has to be the same: the whole value, or of a date its year or month. */
export const KEY_PARTS = ['whole', 'year', 'month'] as const
export const keyPartSchema = z.enum(KEY_PARTS)
export type KeyPart = z.infer<typeof keyPartSchema>

const take = {
  table: id,
  take: z.enum(TAKES),
  /** A column of that table; null for a count or a share. */
  of: id.nullable(),
  /** What its records have to be to be taken, in FEEL over that table's names; of a share, those that are counted of all. */
  where: z.string().trim().min(1).max(LONGEST_CONDITION).nullable(),
}

/** A calculation over records of a table, all of them where no condition says otherwise. */
export const calculationSchema = z.strictObject(take)
export type Calculation = z.infer<typeof calculationSchema>

export const drawnSchema = z.discriminatedUnion('kind', [
  /** Of the records of a table whose keys are the same. */
  z.strictObject({
    kind: z.literal('related'),
    ...take,
    /** A column here, and the one there that has to be the same. */
    keys: z
      .array(z.strictObject({ own: id, theirs: id, part: z.enum(KEY_PARTS) }))
      .min(1)
      .max(8),
    /** What it is where no record is found. */
    none: z.enum(['nothing', 'blank']),
  }),
  /** The place among all records, or among those with the same value `within`: 1 is the first; equals share a place. */
  z.strictObject({ kind: z.literal('rank'), of: id, within: id.nullable(), first: z.enum(['highest', 'lowest']) }),
  /** The share of the total of all records, or of those with the same value `within`, in percent. */
  z.strictObject({ kind: z.literal('part'), of: id, within: id.nullable() }),
  /** An outcome that a gate gives each record: as it was set last, or as its draft stands. */
  z.strictObject({ kind: z.literal('label'), gate: id, from: z.enum(['version', 'draft']), outcome: z.int().nonnegative().max(100) }),
  /** A calculation of each record's own, by its number, told in its own unit and with as many places. */
  z.strictObject({
    kind: z.literal('own'),
    calculations: z
      .array(z.strictObject({ record: id, ...take, places: z.int().min(0).max(20).nullable(), unit: z.string().trim().max(40) }))
      .max(1000),
  }),
])
export type Drawn = z.infer<typeof drawnSchema>
export type Related = Extract<Drawn, { kind: 'related' }>

/** Whether a calculation lacks its column, or has one that it does not take. */
export function isWhole({ take, of }: Pick<Calculation, 'take' | 'of'>): boolean {
  return TAKES_OF_COLUMN.includes(take) === (of !== null)
}

/** Tables whose records are looked at. */
export function tablesOf(drawn: Drawn): number[] {
  if (drawn.kind === 'related') return [drawn.table]
  return drawn.kind === 'own' ? [...new Set(drawn.calculations.map(({ table }) => table))] : []
}

/** Columns of its own table that it is drawn by, but for those that a gate looks at. */
export function ownColumns(drawn: Drawn): number[] {
  switch (drawn.kind) {
    case 'related':
      return drawn.keys.map(({ own }) => own)
    case 'rank':
    case 'part':
      return drawn.within === null ? [drawn.of] : [drawn.of, drawn.within]
    case 'label':
    case 'own':
      return []
  }
}

/** The type of what a calculation comes to. @param typeOf of a column of its table */
export function typeOfTake({ take, of }: Pick<Calculation, 'take' | 'of'>, typeOf: (column: number) => ColumnType): ColumnType {
  if (take === 'share') return 'percent'
  return of === null || take === 'count' ? 'number' : typeOf(of)
}

/**
 * The same of a copy of a table. What a gate gives cannot be: the gate is not bound to the copy.
 * @param column its number by that of the first
 */
export function drawnInCopy(drawn: Exclude<Drawn, { kind: 'label' }>, first: number, copy: number, column: (id: number) => number): Drawn {
  const taken = <Part extends Calculation>(one: Part): Part =>
    one.table === first ? { ...one, table: copy, of: one.of === null ? null : column(one.of) } : one
  switch (drawn.kind) {
    case 'related':
      return {
        ...taken(drawn),
        keys: drawn.keys.map((key) => ({ ...key, own: column(key.own), theirs: drawn.table === first ? column(key.theirs) : key.theirs })),
      }
    case 'rank':
    case 'part':
      return { ...drawn, of: column(drawn.of), within: drawn.within === null ? null : column(drawn.within) }
    case 'own':
      return { ...drawn, calculations: drawn.calculations.map(taken) }
  }
}
