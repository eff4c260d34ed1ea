/** Allowed values of the standard, as what a gate expects of an input. */
import { checkExpression } from '@dime-gate/core/expression/check'
import { parseUnaryTests } from '@dime-gate/core/expression/parse'
import type { Node } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import type { Expected } from '@dime-gate/core/gate/document'
import { type ValueKind, VALUE_KINDS } from '@dime-gate/core/value/value'
import { literalText } from '../literal-text'
import { sourceError } from '../source-problem'
import type { Feel } from './model'

/** The tests of a cell that is a list of them; null where it is anything else. */
export function literalTests({ text }: Feel): Node[] | null {
  const parsed = parseUnaryTests(text, [])
  return 'tree' in parsed && parsed.tree.kind === 'in' ? parsed.tree.tests : null
}

/**
 * @param kind null where nothing is declared; the values tell it then
 * @throws SourceError where they are neither a list nor one range
 */
export function expectedOf(allowed: Feel, kind: ValueKind | null): { expected: Expected | null; kind: ValueKind | null } {
  if (allowed.text === '-' || allowed.text === '') return { expected: null, kind }
  const tests = literalTests(allowed)
  const unsupported = () => {
    return sourceError(`Allowed values are supported as a list of values, or as one range; “${allowed.text}” is neither.`, allowed.at)
  }
  if (!tests) throw unsupported()
  const [only] = tests
  if (tests.length === 1 && only!.kind === 'range') {
    const found = kind ?? kindOfLiteral(only!.low ?? only!.high!)
    const bound = (end: Node | null, included: boolean) => {
      if (!end) return null
      const at = found && literalText(end, found)
      if (at === null) throw unsupported()
      return { at, included }
    }
    return { kind: found, expected: { kind: 'range', low: bound(only!.low, only!.lowIncluded), high: bound(only!.high, only!.highIncluded) } }
  }
  const literals = tests.filter((test) => test.kind !== 'null')
  const found = kind ?? (literals[0] ? kindOfLiteral(literals[0]) : null)
  const values = literals.map((test) => found && literalText(test, found))
  if (values.includes(null)) throw unsupported()
  return { kind: found, expected: { kind: 'list', values: values as string[] } }
}

function kindOfLiteral(node: Node): ValueKind | null {
  const { type } = checkExpression(node, new Map())
  return (VALUE_KINDS as readonly Type[]).includes(type) ? (type as ValueKind) : null
}
