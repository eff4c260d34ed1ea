/** Ordered rules: what every form of gate is lowered to, and what deciding works on. */
import type { Node } from '../expression/tree'
import type { Value } from '../value/value'
import type { Condition } from './condition'
import type { HitPolicy, Input, OutcomeColumn } from '../gate/document'

export interface LoweredInput extends Input {
  /** How it is computed, where it is a figure. */
  figure: Node | null
}

/** What a rule gives one outcome column. */
export type LoweredEntry = { value: Value } | { tree: Node }

export interface LoweredRule {
  condition: Condition
  /** One an outcome column. */
  entries: LoweredEntry[]
  /** Whether it takes nothing by intent, so that nobody needs to be told. */
  isIdle: boolean
  /** Where in the document it comes from, as in `bands.2`, `rules.0`, `cells.1.3`. */
  path: string
}

export interface Lowered {
  name: string
  /** A figure comes after all that it looks at. */
  inputs: ReadonlyMap<string, LoweredInput>
  outcomes: OutcomeColumn[]
  rules: LoweredRule[]
  otherwise: LoweredEntry[] | null
  /** The named conditions that the gate carries, whole. */
  conditions: ReadonlyMap<string, Condition>
  hitPolicy: HitPolicy
}

/** In the order of their codes where a run is stored or sent. */
export const STATUSES = ['labelled', 'unplaced', 'held', 'otherwise', 'contested'] as const
export type Status = (typeof STATUSES)[number]

/** Stands for "none" where a rule or label is told by its place. */
export const NONE = -1

/** Whether a record gets what one rule gives, and not something gathered from several. */
export function isOfOneRule({ hitPolicy }: Pick<Lowered, 'hitPolicy'>): boolean {
  return hitPolicy === 'first' || hitPolicy === 'unique' || hitPolicy === 'any' || hitPolicy === 'priority'
}
