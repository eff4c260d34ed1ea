/** FEEL's functions for the precisions that an input can have (DMN 1.5 clause 10.3.4.5). */
import type { Precision } from '@dime-gate/core/gate/document'

export const ROUNDING_FUNCTIONS = { 'half up': 'round half up', 'half even': 'decimal', truncated: 'round down' } as const satisfies Record<Exclude<Precision['kind'], 'as measured'>, string>
