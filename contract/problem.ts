/** What the server answers when it cannot do what was asked. */
import { z } from 'zod'

export const problemSchema = z.object({
  /** For programs. */
  code: z.string(),
  /** For people: what is wrong, where, and what to do. */
  message: z.string(),
  line: z.int().nullable().optional(),
  column: z.int().nullable().optional(),
})
export type Problem = z.infer<typeof problemSchema>
