/** Bindings: which columns of one table stand for a gate's inputs. Many tables a gate, many gates a table. */
import { z } from 'zod'
import { membersOfSet } from './table-figures'
import type { Table } from './table'

const column = z.strictObject({ column: z.int() })
const columns = z.strictObject({ columns: z.array(z.int()).min(1).max(200) })

/** A column by its id; for a column set several, or the table's set of that name, whoever is in it by then. */
export const boundSchema = z.union([column, columns, z.strictObject({ set: z.string().min(1).max(200) })])
export type Bound = z.infer<typeof boundSchema>

/** By input. Inputs that nothing stands for are blank. */
export const boundInputsSchema = z.record(z.string().min(1).max(200), boundSchema)
export type BoundInputs = z.infer<typeof boundInputsSchema>

/** Columns by their ids, as they stood for an input at one time. */
export const boundColumnsSchema = z.union([column, z.strictObject({ columns: z.array(z.int()) })])
export type BoundColumns = z.infer<typeof boundColumnsSchema>

export const standingInputsSchema = z.record(z.string().min(1).max(200), boundColumnsSchema)
export type StandingInputs = z.infer<typeof standingInputsSchema>

export function columnsBound(bound: BoundColumns): number[] {
  return 'column' in bound ? [bound.column] : bound.columns
}

/** What a binding comes to on a table as it is now: sets are told as their members. A set that is gone has none. */
export function standingInputs(inputs: BoundInputs, table: Pick<Table, 'sets' | 'columns'>): StandingInputs {
  return Object.fromEntries(Object.entries(inputs).map(([input, bound]): [string, BoundColumns] => [input, 'set' in bound ? { columns: membersNamed(bound.set, table) } : bound]))
}

function membersNamed(name: string, { sets, columns: all }: Pick<Table, 'sets' | 'columns'>): number[] {
  const set = sets.find((one) => one.name === name)
  return set ? membersOfSet(set, all).map(({ id }) => id) : []
}

export const bindingSchema = z.object({
  gateId: z.int(),
  tableId: z.int(),
  tableName: z.string(),
  /** Moves with every change; a change says which one it saw. */
  version: z.int(),
  inputs: boundInputsSchema,
})
export type Binding = z.infer<typeof bindingSchema>

/** @property seen the version that was seen; 0 where there was none */
export const bindingChangeSchema = z.strictObject({ inputs: boundInputsSchema, seen: z.int().nonnegative() })
export type BindingChange = z.infer<typeof bindingChangeSchema>
