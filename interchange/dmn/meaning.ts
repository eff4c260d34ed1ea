/** What names in a decision's expressions stand for. */
import type { Node } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import type { Expected, Input } from '@dime-gate/core/gate/document'
import type { ValueKind } from '@dime-gate/core/value/value'

export type Meaning =
  | {
    kind: 'input'
    input: Input
    /** Whether its type was declared, or told already. */
    isKnown: boolean
  }
  /** Of a decision whose value no column holds; its expression is put in its place. */
  | { kind: 'expression'; tree: Node; type: Type; scope: Scope }
export type Scope = ReadonlyMap<string, Meaning>

/** Passing when blank, as the standard has it. */
export function inputOf(name: string, type: ValueKind, isSet: boolean, source: Input['source'], expected: Expected | null): Input {
  return { name, type, isSet, unit: '', source, expected, precision: { kind: 'as measured' }, tolerance: null, blank: 'pass' }
}
