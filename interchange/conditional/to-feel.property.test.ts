import fc from 'fast-check'
import { evaluate } from '@dime-gate/core/expression/evaluate'
import type { ComparisonOperator, Node } from '@dime-gate/core/expression/tree'
import { TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { ConditionalError, type Term } from './term'
import { ToFeel } from './to-feel'

const span = { from: 0, to: 0 }
type Record3 = { a: number | null; b: number | null; flag: boolean | null }

/** SQL's truth, as its standard has it (ISO/IEC 9075-2 clause 8.20): the short reference. */
function truthOf(term: Term, record: Record3): boolean | null {
  switch (term.kind) {
    case 'and': {
      const parts = term.of.map((part) => truthOf(part, record))
      return parts.includes(false) ? false : parts.includes(null) ? null : true
    }
    case 'or': {
      const parts = term.of.map((part) => truthOf(part, record))
      return parts.includes(true) ? true : parts.includes(null) ? null : false
    }
    case 'not': {
      const of = truthOf(term.of, record)
      return of === null ? null : !of
    }
    case 'comparison': {
      const [left, right] = [valueOf(term.left, record), valueOf(term.right, record)]
      if (left === null || right === null) return null
      return { '=': left === right, '!=': left !== right, '<': left < right, '<=': left <= right, '>': left > right, '>=': left >= right }[term.operator]
    }
    case 'is null':
      return isTruth(term.of) ? truthOf(term.of, record) === null : valueOf(term.of, record) === null
    case 'is':
      return truthOf(term.of, record) === term.truth
    case 'is distinct':
      return valueOf(term.left, record) !== valueOf(term.right, record)
    case 'choice': {
      const taken = term.whens.find(({ when }) => truthOf(when, record) === true)?.then ?? term.otherwise
      return taken ? truthOf(taken, record) : null
    }
    case 'value': {
      const value = valueOf(term, record)
      return value === null ? null : Boolean(value)
    }
    case 'array':
      throw new Error('no truth')
  }
}

function valueOf(term: Term, record: Record3): number | boolean | null {
  if (term.kind === 'value') {
    const { node } = term
    return node.kind === 'name' ? record[node.name as keyof Record3] : node.kind === 'number' ? Number(node.number) : node.kind === 'boolean' ? node.value : null
  }
  if (term.kind !== 'choice') return truthOf(term, record)
  const taken = term.whens.find(({ when }) => truthOf(when, record) === true)?.then ?? term.otherwise
  return taken ? valueOf(taken, record) : null
}

function isTruth(term: Term): boolean {
  return term.kind !== 'value' && term.kind !== 'choice'
}

const leaf = (node: Node): Term => ({ kind: 'value', node, span })
const number = fc.oneof(
  fc.constantFrom('a', 'b').map((name) => leaf({ kind: 'name', name, span })), fc.integer({ min: 0, max: 2 }).map((value) => leaf({ kind: 'number', number: String(value), span })), fc.constant(leaf({ kind: 'null', span })))
const { truth } = fc.letrec<{ truth: Term; numeric: Term }>((tie) => ({
  numeric: fc.oneof({ depthSize: 'small', maxDepth: 4 }, { weight: 3, arbitrary: number }, fc.record({
    kind: fc.constant('choice' as const), whens: fc.array(fc.record({ when: tie('truth'), then: tie('numeric') }), { minLength: 1, maxLength: 2 }), otherwise: fc.option(tie('numeric'), { nil: null }), span: fc.constant(span),
  })),
  truth: fc.oneof({ depthSize: 'small', maxDepth: 4 },
    fc.tuple(fc.constantFrom<ComparisonOperator>('=', '!=', '<', '<=', '>', '>='), tie('numeric'), tie('numeric')).map(([operator, left, right]): Term => ({ kind: 'comparison', operator, left, right, span })),
    fc.tuple(tie('numeric'), tie('numeric')).map(([left, right]): Term => ({ kind: 'is distinct', left, right, span })),
    fc.constant(leaf({ kind: 'name', name: 'flag', span })), fc.constantFrom(true, false).map((value) => leaf({ kind: 'boolean', value, span })),
    fc.tuple(fc.constantFrom('and' as const, 'or' as const), fc.array(tie('truth'), { minLength: 1, maxLength: 3 })).map(([kind, of]): Term => ({ kind, of, span })),
    tie('truth').map((of): Term => ({ kind: 'not', of, span })), tie('numeric').map((of): Term => ({ kind: 'is null', of, span })), tie('truth').filter(isTruth).map((of): Term => ({ kind: 'is null', of, span })),
    fc.tuple(tie('truth'), fc.boolean()).map(([of, isWanted]): Term => ({ kind: 'is', of, truth: isWanted, span })),
    fc.tuple(fc.array(fc.record({ when: tie('truth'), then: tie('truth') }), { minLength: 1, maxLength: 2 }), fc.option(tie('truth'), { nil: null })).map(([whens, otherwise]): Term => ({ kind: 'choice', whens, otherwise, span })),
  ),
}))
const record: fc.Arbitrary<Record3> = fc.record({ a: fc.option(fc.integer({ min: 0, max: 2 }), { nil: null }), b: fc.option(fc.integer({ min: 0, max: 2 }), { nil: null }), flag: fc.option(fc.boolean(), { nil: null }) })

/** What is too intricate is refused, which other tests are about. */
function unlessIntricate(make: () => Node): Node {
  try {
    return make()
  } catch (error) {
    if (error instanceof ConditionalError) return fc.pre(false) as never
    throw error
  }
}

function feel(tree: Node, given: Record3): Value {
  const value = (name: string): Value => {
    const known = given[name as keyof Record3]
    return typeof known === 'number' ? new Decimal(known) : known
  }
  return evaluate(tree, { value, today: TODAY })
}

test('a condition is true exactly where the term is, and its opposite where it is false or unknown', () => {
  fc.assert(fc.property(truth, record, (term, given) => {
    const expected = truthOf(term, given)
    expect(feel(unlessIntricate(() => new ToFeel().isTrue(term)), given) === true).toBe(expected === true)
    expect(feel(unlessIntricate(() => new ToFeel().isNotTrue(term)), given) === true).toBe(expected !== true)
  }), { numRuns: 1000 })
})

test('a choice of values is the value that it chooses', () => {
  const choice = fc.tuple(fc.array(fc.record({ when: truth, then: number }), { minLength: 1, maxLength: 3 }), fc.option(number, { nil: null })).map(([whens, otherwise]): Term => ({ kind: 'choice', whens, otherwise, span }))
  fc.assert(fc.property(choice, record, (term, given) => {
    const found = feel(unlessIntricate(() => new ToFeel().value(term)), given)
    expect(isNumber(found) ? found.toNumber() : found).toBe(valueOf(term, given))
  }), { numRuns: 400 })
})
