/** Highlights of a gate: conditions of one's own over what it gives. They are kept beside the gate, and hold for every version of it. */
import { z } from 'zod'
import { LONGEST_EXPRESSION } from '@dime-gate/core/expression/tokens'
import { MARKS } from '@dime-gate/core/gate/mark'
import type { Highlight } from '@dime-gate/core/highlight/highlight'

/** More than anybody tells apart. */
export const MOST_HIGHLIGHTS = 30

const text = (most: number) => z.string().max(most).refine((one) => !one.includes('\0'), 'No text can hold a zero byte.')

export const highlightSchema: z.ZodType<Highlight> = z.strictObject({
  name: text(120).trim().min(1),
  condition: text(LONGEST_EXPRESSION),
  colour: z.string().regex(/^#[0-9a-f]{6}$/),
  mark: z.enum(MARKS),
  on: text(200).nullable(),
  isException: z.boolean(),
})

const highlights = z.array(highlightSchema).max(MOST_HIGHLIGHTS)
  .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, 'Two highlights have one name.')

/** @property version moves with every change */
export const highlightListSchema = z.object({ version: z.int(), highlights })
export type HighlightList = z.infer<typeof highlightListSchema>

/** @property seen the version that the page last saw */
export const highlightChangeSchema = z.strictObject({ seen: z.int(), highlights })
export type HighlightChange = z.infer<typeof highlightChangeSchema>
