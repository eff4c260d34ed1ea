/** What the server answers when it cannot do what was asked. */
import { z } from 'zod'
import { FILE_PROBLEM_CODES } from '@dime-gate/interchange/table/problem'

/** Every code that the server answers with; `unreachable` is what the page says in its place. */
export const PROBLEM_CODES = [
  // The request itself:
  'not-json', 'malformed', 'too-long', 'cut-off', 'other-site', 'not-found', 'file-gone', 'too-many-files',
  // What is there stands against it:
  'stale', 'name-taken', 'nothing-new', 'ambiguous', 'stood-on', 'not-done', 'not-bound', 'no-such-column', 'wrong-type', 'no-version', 'cannot-decide', 'not-a-figure', 'computed',
  // The program, or the way to it:
  'failed', 'unreachable', 'database-away', 'disk-full', 'too-wide', 'no-printer', 'not-printed',
] as const
export type ProblemCode = (typeof PROBLEM_CODES)[number]

export const problemSchema = z.object({
  /** For programs. */
  code: z.enum([...PROBLEM_CODES, ...FILE_PROBLEM_CODES]),
  /** For people: what is wrong, where, and what to do. */
  message: z.string(),
  line: z.int().nullable().optional(),
  column: z.int().nullable().optional(),
})
export type Problem = z.infer<typeof problemSchema>
