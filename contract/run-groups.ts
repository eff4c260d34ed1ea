/** A run by group: how the labels fall among the values of one column. */
import { z } from 'zod'
import { keyPartSchema } from './drawn'

/** More of them nobody reads, and no chart shows. */
export const MOST_GROUPS = 1000

const count = z.int()

export const runGroupSchema = z.object({
  /** In canonical text, of a date its year or month (`2026-03`) where that was asked for; null for a blank, and for what could not be read. */
  value: z.string().nullable(),
  /** What stands in the column could not be read. */
  isUnreadable: z.boolean(),
  records: count,
  /** In the order of the run's labels. */
  labels: z.array(count),
  otherwise: count,
  unplaced: count,
  held: count,
  contested: count,
})
export type RunGroup = z.infer<typeof runGroupSchema>

/** In the order of their values, those without one last. */
export const runGroupsSchema = z.object({ column: z.int(), part: keyPartSchema, groups: z.array(runGroupSchema) })
export type RunGroups = z.infer<typeof runGroupsSchema>
