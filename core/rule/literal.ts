/** Values written in a document, as nodes of an expression. */
import type { Node } from '../expression/tree'
import { textOfValue, valueFromText } from '../value/value-text'
import { kindOf, type Value, type ValueKind } from '../value/value'

const NOWHERE = { from: 0, to: 0 }

/** @returns null where `text` is no canonical text of `kind` */
export function literalNode(text: string, kind: ValueKind): Node | null {
  const value = valueFromText(text, kind)
  if (value === null) return null
  switch (kind) {
    case 'number':
      return { kind: 'number', number: text, span: NOWHERE }
    case 'text':
      return { kind: 'text', text, span: NOWHERE }
    case 'boolean':
      return { kind: 'boolean', value: value as boolean, span: NOWHERE }
    default:
      return { kind: 'temporal', text, span: NOWHERE }
  }
}

/** The node of a single value: no list, no range, not null. */
export function valueNode(value: Value): Node {
  return literalNode(textOfValue(value), kindOf(value) as ValueKind)!
}

export function nameNode(name: string): Node {
  return { kind: 'name', name, span: NOWHERE }
}

export function callNode(name: string, ...args: Node[]): Node {
  return { kind: 'call', name, args, names: null, span: NOWHERE }
}

export function textNode(text: string): Node {
  return { kind: 'text', text, span: NOWHERE }
}
