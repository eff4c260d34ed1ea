/** How the values that a run saw of a column are spread along a stretch of it. */
import { z } from 'zod'

/** More than anybody sees apart. */
export const MOST_BINS = 120

const end = z.coerce.number().refine(Number.isFinite)
/** @property from where the first bin begins @property to where the last ends; beyond them nothing is counted */
export const spreadRequestSchema = z.object({ from: end, to: end, bins: z.coerce.number().int().min(1).max(MOST_BINS) }).refine(({ from, to }) => from < to, 'A stretch ends beyond where it begins.')
export type SpreadRequest = z.infer<typeof spreadRequestSchema>

/** By bin its records, all bins equally wide. */
export const runSpreadSchema = z.array(z.int())
export type RunSpread = z.infer<typeof runSpreadSchema>
