/** SQL's patterns (ISO/IEC 9075-2 clause 8.5): `%` for any characters, `_` for exactly one. */
import type { Node, Span } from '@dime-gate/core/expression/tree'
import type { ConditionalToken } from './cursor'
import { callValue, textValue } from './nodes'
import { notUnderstood, type Term } from './term'
import type { ToFeel } from './to-feel'

/** @param folds whether capitals and small letters count alike */
export function like(of: Term, pattern: ConditionalToken, folds: boolean, span: Span, feel: ToFeel): Term {
  if (pattern.text.includes('\\')) throw notUnderstood('“\\” in a pattern is not understood.', pattern)
  const lower = (node: Node): Node => ({ kind: 'call', name: 'lower case', args: [node], names: null, span })
  const subject = folds ? lower(feel.value(of)) : feel.value(of)
  const written = folds ? pattern.text.toLowerCase() : pattern.text
  const [, lead, middle, tail] = /^(%*)(.*?)(%*)$/s.exec(written)!
  const text = textNode(middle!, pattern)
  if (/[%_]/.test(middle!)) {
    const regular = [...written].map((sign) => (sign === '%' ? '.*' : sign === '_' ? '.' : sign.replace(/[\\^$.*+?()[\]{}|-]/, '\\$&'))).join('')
    return callValue('matches', [subject, textNode(`^${regular}$`, pattern), textNode('s', pattern)], span)
  }
  if (!lead && !tail) return { kind: 'comparison', operator: '=', left: folds ? { kind: 'value', node: subject, span } : of, right: textValue(middle!, pattern), span }
  return callValue(lead && tail ? 'contains' : lead ? 'ends with' : 'starts with', [subject, text], span)
}

function textNode(text: string, { from, to }: Span): Node {
  return { kind: 'text', text, span: { from, to } }
}
