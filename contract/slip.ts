/** One record's own result, to print or to send, and links by which people outside reach it, or try a gate. */
import { z } from 'zod'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { standingInputsSchema } from './binding'
import { gateDocumentSchema } from './gate-document'
import { dateSchema } from './run'
import { cellSchema, columnSchema } from './table'

const id = z.int().positive().max(2 ** 31 - 1)
const text = (most: number) => z.string().max(most).refine((one) => !one.includes('\0'), 'No text can hold a zero byte.')

/** More than anybody prints at a time. */
export const MOST_SLIPS = 2000

/** @property version moves with every change */
export const gateSentenceSchema = z.object({ version: z.int(), sentence: z.string() })
export type GateSentence = z.infer<typeof gateSentenceSchema>
/** @property seen the version that the page last saw */
export const sentenceChangeSchema = z.strictObject({ seen: z.int(), sentence: text(1000) })
export type SentenceChange = z.infer<typeof sentenceChangeSchema>

/** What is said of a column on a slip: nothing that counts other records. */
export const slipColumnSchema = columnSchema.pick({ id: true, name: true, unit: true, type: true, isIdentity: true }).extend({ isComputed: z.boolean() })
export type SlipColumn = z.infer<typeof slipColumnSchema>

/** What all slips of a run have in common: the gate as it decided, without the records that are kept with it. */
export const slipHeadSchema = z.object({
  gate: gateDocumentSchema,
  feeding: z.array(z.object({ gate: gateDocumentSchema, inputs: standingInputsSchema })),
  inputs: standingInputsSchema,
  asOf: dateSchema,
  tableName: z.string(),
  sentence: z.string(),
  /** Those that say who a record is, and those that the gate looked at. */
  columns: z.array(slipColumnSchema),
})
export type SlipHead = z.infer<typeof slipHeadSchema>

/** @property cells as the run saw them, by the head's columns @property outcomes what the run gave, in canonical text @property byHand what somebody gave it instead, as far as that still holds */
export const slipSchema = z.object({
  record: z.int(),
  cells: z.array(cellSchema),
  status: z.enum(STATUSES),
  outcomes: z.array(z.string().nullable()),
  byHand: z.record(z.string(), z.string().nullable()).nullable(),
})
export type Slip = z.infer<typeof slipSchema>

/** Whose slips: those with a label, or of all records; or some by their numbers. */
export const slipsRequestSchema = z.strictObject({ label: text(1000).nullable(), records: z.array(id).max(MOST_SLIPS).nullable() })
export type SlipsRequest = z.infer<typeof slipsRequestSchema>
/** In the order of the table, or the one in which they were asked for. @property total of those that were asked for, of which no more than `MOST_SLIPS` are sent */
export const slipsSchema = z.object({ head: slipHeadSchema, total: z.int(), slips: z.array(slipSchema) })
export type Slips = z.infer<typeof slipsSchema>

/** @property token the end of its address */
export const linkSchema = z.object({ id: z.int(), token: z.string(), record: z.int().nullable(), gateVersion: z.int(), madeAt: z.string(), endsOn: dateSchema })
export type Link = z.infer<typeof linkSchema>
export const linksSchema = z.array(linkSchema)

/** @property endsOn the last day on which it leads anywhere */
export const slipLinksRequestSchema = z.strictObject({ of: slipsRequestSchema, endsOn: dateSchema })
export type SlipLinksRequest = z.infer<typeof slipLinksRequestSchema>
export const withdrawalSchema = z.strictObject({ records: z.array(id).max(MOST_SLIPS).nullable() })
export const tryLinkRequestSchema = z.strictObject({ version: id, endsOn: dateSchema })
export type TryLinkRequest = z.infer<typeof tryLinkRequestSchema>

/** What a link to a slip leads to: that slip, and nothing of any other. */
export const linkedSlipSchema = z.object({ head: slipHeadSchema, slip: slipSchema, endsOn: dateSchema })
export type LinkedSlip = z.infer<typeof linkedSlipSchema>
/** A gate to try: as it was set, with those that feed it. */
export const linkedGateSchema = z.object({ gate: gateDocumentSchema, feeding: z.array(z.object({ gate: gateDocumentSchema, inputs: standingInputsSchema })), asOf: dateSchema, endsOn: dateSchema })
export type LinkedGate = z.infer<typeof linkedGateSchema>
