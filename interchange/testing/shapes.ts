/** For tests: takes every document at its word. */
import type { DocumentShapes } from '../dmn/dmn'

export const TRUSTING: DocumentShapes = { gate: (data) => data as never, conditions: (data) => data as never }
/** As if the file came from elsewhere. */
export const OF_OTHERS: DocumentShapes = { gate: () => null, conditions: () => null }
