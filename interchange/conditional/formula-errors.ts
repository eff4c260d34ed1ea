/**
 * Where a formula comes to an error. An empty cell is none: it counts as nought, so that a blank never takes the way
 * that was meant for errors.
 */
import { childrenOf, type Node, type Span } from '@dime-gate/core/expression/tree'
import { numberValue, value } from './nodes'
import type { Term } from './term'

/** The value of a term, or another where it is an error (ISO/IEC 26300-4 clause 6.15.2). */
export function withFallback(of: Term, fallback: Term, span: Span): Term {
  // A cell by itself can only be an error that was brought in with the data: then it has no value here.
  if (of.kind === 'value' && of.node.kind === 'name') return chosen([{ kind: 'is null', of, span }], fallback, of, span)
  if (of.kind !== 'choice') return chosen(errorsOf(of), fallback, of, span)
  const inner = (term: Term) => withFallback(term, fallback, span)
  const whens = of.whens.flatMap(({ when, then }) => [...errorsOf(when).map((error) => ({ when: error, then: fallback })), { when, then: isNothing(then) ? then : inner(then) }])
  return { ...of, whens, otherwise: of.otherwise ? inner(of.otherwise) : fallback }
}

function chosen(errors: readonly Term[], fallback: Term, of: Term, span: Span): Term {
  return errors.length === 0 ? of : { kind: 'choice', whens: errors.map((when) => ({ when, then: fallback })), otherwise: of, span }
}

function isNothing(term: Term): boolean {
  return term.kind === 'value' && term.node.kind === 'null'
}

/** Conditions of which any means an error; none where it never is. */
function errorsOf(term: Term): Term[] {
  switch (term.kind) {
    case 'value':
      return nodeErrors(term.node)
    case 'comparison': case 'is distinct':
      return [...errorsOf(term.left), ...errorsOf(term.right)]
    case 'and': case 'or':
      return term.of.flatMap(errorsOf)
    case 'not': case 'is':
      return errorsOf(term.of)
    case 'is null':
      return []
    case 'array':
      return term.rows.flat().flatMap(errorsOf)
    case 'choice':
      return [{ kind: 'is null', of: term, span: term.span }]
  }
}

function nodeErrors(node: Node): Term[] {
  const inner = childrenOf(node).flatMap(nodeErrors)
  const { span } = node
  const compared = (of: Node, operator: '=' | '<' | '<='): Term => ({ kind: 'comparison', operator, left: value(of), right: numberValue('0', span), span })
  switch (node.kind) {
    case 'arithmetic':
      return node.operator === '/' ? [...inner, compared(node.right, '=')] : node.operator === '**' ? [...inner, isNull(node)] : inner
    case 'call':
      if (node.name === 'modulo') return [...inner, compared(node.args[1]!, '=')]
      if (node.name === 'sqrt') return [...inner, compared(node.args[0]!, '<')]
      if (node.name === 'log') return [...inner, compared(node.args[0]!, '<=')]
      return NEVER_ERRORS.has(node.name) ? inner : [isNull(node)]
    case 'if': case 'path': case 'filter':
      return [isNull(node)]
    default:
      return inner
  }
}

const NEVER_ERRORS: ReadonlySet<string> = new Set([
  'abs', 'upper case', 'lower case', 'string length', 'round half up', 'round up', 'round down', 'floor', 'sum', 'min', 'max', 'count', 'today', 'odd', 'even', 'contains', 'substring', 'replace',
])

function isNull(node: Node): Term {
  return { kind: 'is null', of: value(node), span: node.span }
}
