/** Tests that ask where one thing lies: an input, or an expression, against constants. */
import { evaluate } from '../expression/evaluate'
import { freeNames, mentionsTested, MIRRORED, type Node, type NodeOf } from '../expression/tree'
import { areEqual, isInRange } from '../value/compare'
import { isList, kindOf, type DateValue, type RangeValue, type Value } from '../value/value'

/** A stretch of values, or exactly one, which the subject is asked to be the same as. */
export interface Piece extends RangeValue {
  isPoint: boolean
}

export interface SimpleTest {
  subject: Node
  /** True where the subject lies in any of these; a point is the range from itself to itself. */
  pieces: Piece[]
  /** Then it is true where the subject lies in none. */
  isNegated: boolean
}

const known = new WeakMap<Node, { day: number; simple: SimpleTest | null }>()

/** @returns null where the test is of another kind */
export function simpleTest(tree: Node, today: DateValue): SimpleTest | null {
  // While a gate is worked on, nearly all of its tests are the ones that it had.
  const before = known.get(tree)
  if (before?.day === today.day) return before.simple
  const simple = asSimple(tree, today)
  known.set(tree, { day: today.day, simple })
  return simple
}

function asSimple(tree: Node, today: DateValue): SimpleTest | null {
  const constant = (node: Node): Value | undefined => (freeNames(node).length === 0 ? evaluate(node, { value: () => null, today }) : undefined)
  switch (tree.kind) {
    case 'name':
      return { subject: tree, pieces: [point(true)], isNegated: false }
    case 'comparison':
      return comparison(tree, constant)
    case 'between': {
      const [low, high] = [constant(tree.low), constant(tree.high)]
      return isBound(low) && isBound(high) && !isConstant(tree.of) ? { subject: tree.of, pieces: [{ ...closed(low, high), isPoint: false }], isNegated: false } : null
    }
    case 'in': {
      if (isConstant(tree.of) || tree.tests.some(mentionsTested)) return null
      const pieces = tree.tests.flatMap((test) => piecesOf(test, constant))
      return pieces.includes(null) ? null : { subject: tree.of, pieces: pieces as Piece[], isNegated: false }
    }
    default:
      return null
  }
}

function comparison({ operator, left, right, span }: NodeOf<'comparison'>, constant: (node: Node) => Value | undefined): SimpleTest | null {
  const [a, b] = [constant(left), constant(right)]
  if ((a === undefined) === (b === undefined)) {
    // Two things against each other: their difference against nothing, where they are numbers.
    if (a !== undefined || operator === '=' || operator === '!=') return null
    const difference: Node = { kind: 'arithmetic', operator: '-', left, right, span }
    return comparison({ kind: 'comparison', operator, left: difference, right: { kind: 'number', number: '0', span }, span }, constant)
  }
  const [subject, value] = a === undefined ? [left, b] : [right, a]
  if (!isBound(value)) return null
  switch (a === undefined ? operator : MIRRORED[operator]) {
    case '=':
      return { subject, pieces: [point(value)], isNegated: false }
    case '!=':
      return { subject, pieces: [point(value)], isNegated: true }
    case '<':
      return { subject, pieces: [{ kind: 'range', low: null, high: value, lowIncluded: false, highIncluded: false, isPoint: false }], isNegated: false }
    case '<=':
      return { subject, pieces: [{ kind: 'range', low: null, high: value, lowIncluded: false, highIncluded: true, isPoint: false }], isNegated: false }
    case '>':
      return { subject, pieces: [{ kind: 'range', low: value, high: null, lowIncluded: false, highIncluded: false, isPoint: false }], isNegated: false }
    case '>=':
      return { subject, pieces: [{ kind: 'range', low: value, high: null, lowIncluded: true, highIncluded: false, isPoint: false }], isNegated: false }
  }
}

function piecesOf(test: Node, constant: (node: Node) => Value | undefined): (Piece | null)[] {
  const value = constant(test)
  const items = value !== undefined && isList(value) ? value : [value]
  return items.map((item) => {
    if (item === undefined || item === null || isList(item)) return null
    return kindOf(item) === 'range' ? { ...(item as RangeValue), isPoint: false } : isBound(item) ? point(item) : null
  })
}

/** The subject of `X = null` or `X != null`. */
export function blankTest(tree: Node): { subject: Node; isNegated: boolean } | null {
  if (tree.kind !== 'comparison' || (tree.operator !== '=' && tree.operator !== '!=')) return null
  const subject = tree.right.kind === 'null' ? tree.left : tree.left.kind === 'null' ? tree.right : null
  return subject && subject.kind !== 'null' ? { subject, isNegated: tree.operator === '!=' } : null
}

function isConstant(node: Node): boolean {
  return freeNames(node).length === 0
}

/** A value that something can be compared with. */
function isBound(value: Value | undefined): value is Exclude<Value, null> {
  return value !== undefined && value !== null && !isList(value) && kindOf(value) !== 'range' && kindOf(value) !== 'function'
}

function point(value: Value): Piece {
  return { ...closed(value, value), isPoint: true }
}

function closed(low: Value, high: Value): RangeValue {
  return { kind: 'range', low, high, lowIncluded: true, highIncluded: true }
}

/** Whether `value` lies in `piece`; null where they cannot be compared. */
export function isInPiece(value: Value, piece: RangeValue & { isPoint?: boolean }): boolean | null {
  return piece.isPoint ? areEqual(value, piece.low) : isInRange(value, piece)
}
