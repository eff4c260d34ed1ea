/** What keeps a gate from deciding, as data. */
import type { Problem } from '../expression/problem'

export type GateProblemCode =
  | 'no-outcome' | 'repeated-name' | 'unusable-name' | 'unknown-input' | 'not-ordered'
  | 'band-count' | 'cut-order' | 'empty-band' | 'grid-shape' | 'entry-count'
  /** A text that is no value of its kind. */
  | 'bad-value'
  | 'expression' | 'wrong-outcome-kind'
  | 'figure-loop' | 'condition-loop' | 'gate-loop' | 'unknown-gate' | 'unknown-outcome'
  | 'not-a-number' | 'nothing-to-round' | 'repeated-value'

export interface GateProblem {
  code: GateProblemCode
  /** The place in the document, as in `cuts.2`. */
  path: string
  /** The names and texts concerned. */
  found: string[]
  /** What is wrong with the expression at `path`, where the code is `expression`. */
  problem: Problem | null
}

export function gateProblem(code: GateProblemCode, path: string, found: string[] = [], problem: Problem | null = null): GateProblem {
  return { code, path, found, problem }
}
