/** Ordered rules: what every form of gate is lowered to, and what deciding works on. */
import type { Interval } from './interval'

export interface LabelRule {
  /** What the input's value must satisfy. An interval open on both sides takes every record, blanks too. */
  test: Interval
  /** The label that the rule gives, as a place in `labels`. */
  label: number
}

/** Rules under the hit policy First (DMN 1.5 clause 8.2.10): the first true rule decides. */
export interface LabelRules {
  labels: string[]
  rules: LabelRule[]
}

/** In the order of their codes where a run is stored or sent. */
export const STATUSES = ['labelled', 'unplaced', 'held'] as const
export type Status = (typeof STATUSES)[number]

/** Stands for "none" where a rule or label is told by its place. */
export const NONE = -1
