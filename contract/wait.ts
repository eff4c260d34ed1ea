/** What is asked for as a file, and not begun yet. */
import { z } from 'zod'

/** @property isWaiting whether others that were asked for before are made first */
export const waitSchema = z.object({ isWaiting: z.boolean() })
export type Wait = z.infer<typeof waitSchema>
