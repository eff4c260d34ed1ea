/** Values written out in an expression, as the canonical text that documents hold. */
import type { Node } from '@dime-gate/core/expression/tree'
import { valueFromText } from '@dime-gate/core/value/value-text'
import type { ValueKind } from '@dime-gate/core/value/value'

/** @returns null where `node` is no literal, or one of another kind */
export function literalText(node: Node, kind: ValueKind): string | null {
  const text = node.kind === 'number' ? node.number : node.kind === 'text' || node.kind === 'temporal' ? node.text : node.kind === 'boolean' ? String(node.value) : null
  const isOfKind = node.kind === 'temporal' ? kind !== 'text' && kind !== 'number' && kind !== 'boolean' : node.kind === kind
  return text !== null && isOfKind && valueFromText(text, kind) !== null ? text : null
}
