/** Gate documents as they are stored and sent. The types are core's; here is the check that data has them. */
import { z } from 'zod'
import { MARKS } from '@dime-gate/core/gate/mark'
import type { ScaleGate } from '@dime-gate/core/gate/scale-gate'
import { scaleProblems } from '@dime-gate/core/gate/scale-problems'
import { Decimal } from '@dime-gate/core/value/number'

const MOST_CUTS = 200

const name = (most: number) => z.string().trim().min(1).max(most)

/** A decimal as text: at most 34 significant digits, within the reach of a double. */
const decimalText = z.string().regex(/^-?\d{1,40}(\.\d{1,40})?$/, { abort: true }).refine((text) => new Decimal(text).precision() <= 34, 'more than 34 significant digits')

const bound = z.strictObject({ at: decimalText, included: z.boolean() })

export const bandSchema = z.strictObject({ label: name(120), colour: z.string().regex(/^#[0-9a-f]{6}$/), mark: z.enum(MARKS) })

export const scaleGateSchema: z.ZodType<ScaleGate> = z.strictObject({
  form: z.literal('scale'),
  name: name(120),
  input: z.strictObject({ name: name(200), type: z.enum(['number', 'percent']), unit: z.string().max(40) }),
  cuts: z.array(z.strictObject({ at: decimalText, owner: z.enum(['below', 'above']) })).max(MOST_CUTS),
  bands: z.array(bandSchema).min(1),
  floor: bound.nullable(),
  ceiling: bound.nullable(),
}).check(({ value, issues }) => {
  for (const { code, path } of scaleProblems(value as ScaleGate)) {
    issues.push({ code: 'custom', message: code, path: path.split('.'), input: value })
  }
})

export const gateSummarySchema = z.object({
  id: z.int(),
  name: z.string(),
  tableId: z.int(),
  tableName: z.string(),
  columnName: z.string(),
  /** The newest version that was set; 0 where none was. */
  latestVersion: z.int(),
  bands: z.array(bandSchema),
  changedAt: z.string(),
})
export type GateSummary = z.infer<typeof gateSummarySchema>

export const gateSchema = z.object({
  id: z.int(),
  draft: scaleGateSchema,
  /** Moves with every change of the draft or its binding; a change says which one it saw. */
  draftVersion: z.int(),
  tableId: z.int(),
  columnId: z.int(),
  latestVersion: z.int(),
  /** What was last set, to tell whether the draft differs; null where nothing was. */
  latest: scaleGateSchema.nullable(),
})
export type Gate = z.infer<typeof gateSchema>

export const newGateSchema = z.strictObject({ draft: scaleGateSchema, tableId: z.int(), columnId: z.int() })
export type NewGate = z.infer<typeof newGateSchema>

export const draftChangeSchema = z.strictObject({ draft: scaleGateSchema, tableId: z.int(), columnId: z.int(), seen: z.int() })
export type DraftChange = z.infer<typeof draftChangeSchema>

export const versionRequestSchema = z.strictObject({ seen: z.int() })
