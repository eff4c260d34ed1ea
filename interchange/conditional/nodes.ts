/** Values of conditionals as FEEL nodes. */
import type { Node, Span } from '@dime-gate/core/expression/tree'
import { numberFromText } from '@dime-gate/core/value/value-text'
import { notUnderstood, type Term } from './term'

export function value(node: Node): Term {
  return { kind: 'value', node, span: node.span }
}

export function textValue(text: string, span: Span): Term {
  return value({ kind: 'text', text, span })
}

export function numberValue(text: string, span: Span): Term {
  const number = numberFromText(text)
  if (!number) throw notUnderstood(`“${text}” is no number that can be held.`, span)
  return value({ kind: 'number', number: number.toFixed(), span })
}

export function dateValue(text: string, span: Span): Term {
  return value({ kind: 'temporal', text, span })
}

export function booleanValue(isTrue: boolean, span: Span): Term {
  return value({ kind: 'boolean', value: isTrue, span })
}

export function nullValue(span: Span): Term {
  return value({ kind: 'null', span })
}

export function callValue(name: string, args: readonly Node[], span: Span): Term {
  return value({ kind: 'call', name, args: [...args], names: null, span })
}

/** A negative number is one value, as it is to FEEL's parser. */
export function negatedValue(of: Node, span: Span): Term {
  return value(of.kind === 'number' && !of.number.startsWith('-') ? { ...of, number: `-${of.number}`, span } : { kind: 'negate', of, span })
}
