/** Bindings: which columns of one table stand for a gate's inputs. Many tables a gate, many gates a table. */
import { z } from 'zod'

/** A column by its id; for a column set several. */
export const boundSchema = z.union([z.strictObject({ column: z.int() }), z.strictObject({ columns: z.array(z.int()).min(1).max(200) })])
export type Bound = z.infer<typeof boundSchema>

export function columnsBound(bound: Bound): number[] {
  return 'column' in bound ? [bound.column] : bound.columns
}

/** By input. Inputs that nothing stands for are blank. */
export const boundInputsSchema = z.record(z.string().min(1).max(200), boundSchema)
export type BoundInputs = z.infer<typeof boundInputsSchema>

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
