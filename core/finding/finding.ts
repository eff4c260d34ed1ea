/** What is known of a gate before any data, as data; words are put to it where it is shown. */
import type { Value } from '../value/value'

export const FINDING_KINDS = [
  'gap', 'edge hole', 'step hole', 'overlap', 'never reached', 'no effect', 'split label', 'rank break', 'outside range', 'near-same labels', 'blank unsaid',
  // With a table bound:
  'scale mismatch', 'near-miss values', 'all in one band', 'finer than cuts',
] as const
export type FindingKind = (typeof FINDING_KINDS)[number]

export type Severity = 'error' | 'warning' | 'note'

export interface Finding {
  kind: FindingKind
  severity: Severity
  /** Places of the rules concerned; the one that the finding is about comes first. */
  rules: number[]
  /** The input, or the expression, along which it lies; null where it lies along none alone. */
  axis: string | null
  /** The stretch or value concerned, as FEEL unary tests by axis; `-` is left out. */
  where: Record<string, string>
  /** The same as one FEEL condition, true there and nowhere else; empty where the finding is about no place. */
  condition: string
  /** Labels concerned. */
  labels: string[]
  /** A record that shows it, by given input; every claim was tried on it. Null where no record can. */
  example: Record<string, Value> | null
  /** The inputs that matter in the example: no other value of the others would change what it shows. */
  concerns: string[]
  /** False where it is sure of the example alone: along an expression, whether the rest of the place can be met is not known. */
  isProven: boolean
}

/** A finding whose example is still to be made; null where it turns out that there is none to show it. */
export type Draft = () => Finding | null

export interface Findings {
  findings: Finding[]
  /** Findings that were left out because there are too many of their kind. */
  more: Partial<Record<FindingKind, number>>
  /** Places of rules of which it could not be told, within the budget, whether they are reached or matter; empty where all is proven. */
  unproven: number[]
  /** Whether all gaps were looked for to the end. */
  areGapsProven: boolean
}
