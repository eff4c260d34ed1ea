/** What a DMN file says, as plain data: the part of DMN 1.5 (clauses 6 to 8) that becomes gates. */
import type { HitPolicy } from '@dime-gate/core/gate/document'
import type { ValueKind } from '@dime-gate/core/value/value'
import type { Place } from '../source-problem'

/** An expression or unary tests, and where they stand. */
export interface Feel {
  text: string
  at: Place
}

/** What a `typeRef` comes to; a null kind says nothing. */
export interface DmnType {
  kind: ValueKind | null
  isList: boolean
  /** Unary tests that every value passes. */
  allowed: Feel | null
  /** Of a structure, its components by name. */
  parts: { name: string; type: DmnType }[]
}

export const ANY_TYPE: DmnType = { kind: null, isList: false, allowed: null, parts: [] }

export interface DmnInput {
  id: string
  name: string
  type: DmnType
  at: Place
}

export interface DmnDecision {
  id: string
  name: string
  /** Of its variable: what expressions call its result. */
  variable: string
  type: DmnType
  /** Ids of the inputs and decisions whose values it may use. */
  requires: { id: string; at: Place }[]
  logic: DmnTable | DmnLiteral
  /** The gate's document, where the file came from here. */
  document: string | null
  at: Place
}

export interface DmnLiteral {
  kind: 'literal'
  expression: Feel
}

export interface DmnTable {
  kind: 'table'
  hitPolicy: HitPolicy
  inputs: { expression: Feel; type: DmnType; values: Feel | null }[]
  outputs: DmnOutput[]
  rules: DmnRule[]
  at: Place
}

export interface DmnOutput {
  /** Null where a single output goes by the decision's name. */
  name: string | null
  type: DmnType
  /** Literals, the highest priority first. */
  values: Feel | null
  otherwise: Feel | null
  at: Place
}

export interface DmnRule {
  /** One an input, unary tests. */
  tests: Feel[]
  /** One an output, expressions. */
  entries: Feel[]
  note: string
  at: Place
}

export interface DmnModel {
  name: string
  inputs: DmnInput[]
  decisions: DmnDecision[]
  /** Named conditions, where the file came from here. */
  conditions: string | null
}
