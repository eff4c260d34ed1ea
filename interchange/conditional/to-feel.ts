/** Terms as FEEL. Truth of three values is asked for by what is wanted of it, so that FEEL's own null never matters. */
import type { ComparisonOperator, Node, Span } from '@dime-gate/core/expression/tree'
import { areEqual, compareValues } from '@dime-gate/core/value/compare'
import { Decimal } from '@dime-gate/core/value/number'
import type { Value } from '@dime-gate/core/value/value'
import { notUnderstood, type Term } from './term'

/** What is asked of a term's truth; each has a plain yes or no. */
type Question = 'true' | 'false' | 'not true' | 'not false'

/** Parts that choices inside comparisons may come to when they are taken apart. */
const MOST_PARTS = 20_000

const OPPOSITE: Record<Question, Question> = { true: 'false', false: 'true', 'not true': 'not false', 'not false': 'not true' }
const NEGATED: Record<ComparisonOperator, ComparisonOperator> = { '=': '!=', '!=': '=', '<': '>=', '<=': '>', '>': '<=', '>=': '<' }

export class ToFeel {
  private parts = 0
  /** What was read in the one way that makes sense of it, where another was possible. */
  readonly doubts = new Set<string>()

  /** The term as a value: a choice becomes `if`, a truth a condition. */
  value(term: Term): Node {
    this.count(term)
    switch (term.kind) {
      case 'value':
        return term.node
      case 'choice': {
        const otherwise: Node = term.otherwise ? this.value(term.otherwise) : { kind: 'null', span: term.span }
        return term.whens.toReversed().reduce<Node>((rest, { when, then }) => ({ kind: 'if', condition: this.isTrue(when), then: this.value(then), otherwise: rest, span: term.span }), otherwise)
      }
      case 'array':
        throw severalValues(term.span)
      default:
        return this.isTrue(term)
    }
  }

  /** A condition that is true exactly where the term is. */
  isTrue(term: Term): Node {
    return this.ask(term, 'true')
  }

  /** A condition that is true exactly where the term is false or unknown. */
  isNotTrue(term: Term): Node {
    return this.ask(term, 'not true')
  }

  private count({ span }: Term): void {
    if (++this.parts > MOST_PARTS) throw notUnderstood('This is too intricate to be taken apart.', span)
  }

  private ask(term: Term, question: Question): Node {
    this.count(term)
    const { span } = term
    switch (term.kind) {
      case 'and': case 'or': {
        const parts = term.of.map((part) => this.ask(part, question))
        const isAll = (term.kind === 'and') === (question === 'true' || question === 'not false')
        return isAll ? all(parts, span) : any(parts, span)
      }
      case 'not':
        return this.ask(term.of, OPPOSITE[question])
      case 'comparison':
        return this.comparison(term, question)
      case 'is null':
        return this.isNull(term.of, question === 'true' || question === 'not false')
      case 'is': {
        const wanted: Question = term.truth ? 'true' : 'false'
        return this.ask(term.of, question === 'true' || question === 'not false' ? wanted : term.truth ? 'not true' : 'not false')
      }
      case 'is distinct':
        return this.distinction(term, question)
      case 'choice':
        return this.choice(term, question)
      case 'value':
        return this.truthOf(term.node, question)
      case 'array':
        throw severalValues(span)
    }
  }

  /** A value that is itself true or false, such as a column. */
  private truthOf(node: Node, question: Question): Node {
    const { span } = node
    if (node.kind === 'boolean') return { kind: 'boolean', value: node.value === (question === 'true' || question === 'not false'), span }
    if (node.kind === 'null') return { kind: 'boolean', value: question === 'not true' || question === 'not false', span }
    const is = (truth: boolean): Node => (truth ? node : { kind: 'comparison', operator: '=', left: node, right: { kind: 'boolean', value: false, span }, span })
    if (question === 'true' || question === 'false') return is(question === 'true')
    return any([is(question === 'not false'), nullTest(node)], span)
  }

  /** A comparison with a choice as the choice between comparisons; null where neither side is one. */
  private takenApart(term: Extract<Term, { left: Term }>, question: Question): Node | null {
    const { left, right, span } = term
    const choice = left.kind === 'choice' ? left : right.kind === 'choice' ? right : null
    if (!choice) return null
    const compared = (of: Term): Term => (choice === left ? { ...term, left: of } : { ...term, right: of })
    const otherwise = choice.otherwise ?? { kind: 'value', node: { kind: 'null', span }, span }
    return this.choice({ kind: 'choice', whens: choice.whens.map(({ when, then }) => ({ when, then: compared(then) })), otherwise: compared(otherwise), span }, question)
  }

  /** Never unknown: nothing is the same as nothing, and different from all else, as it is to FEEL. */
  private distinction(term: Extract<Term, { kind: 'is distinct' }>, question: Question): Node {
    const apart = this.takenApart(term, question)
    if (apart) return apart
    const { span } = term
    const isWanted = question === 'true' || question === 'not false'
    const [left, right] = [this.value(term.left), this.value(term.right)]
    const isNothing = [left, right].filter(({ kind }) => kind === 'null').length
    const known = isNothing === 2 ? true : isNothing === 1 && isLiteral(left) && isLiteral(right) ? false : compareLiterals('=', left, right)
    if (known !== null) return { kind: 'boolean', value: known !== isWanted, span }
    return { kind: 'comparison', operator: isWanted ? '!=' : '=', left, right, span }
  }

  private comparison(term: Extract<Term, { kind: 'comparison' }>, question: Question): Node {
    const apart = this.takenApart(term, question)
    if (apart) return apart
    const { left, right, operator, span } = term
    const [a, b] = [this.value(left), this.value(right)]
    const known = compareLiterals(operator, a, b)
    if (known !== null) return { kind: 'boolean', value: known === (question === 'true' || question === 'not false'), span }
    const nulls = [a, b].filter((side) => !isLiteral(side) || side.kind === 'null')
    const positive: Node = { kind: 'comparison', operator: question === 'true' || question === 'not false' ? operator : NEGATED[operator], left: a, right: b, span }
    if (question === 'not true' || question === 'not false') return any([positive, ...nulls.map((side) => nullTest(side))], span)
    // FEEL's equality knows null: it has to be ruled out where it could make the comparison true.
    const couldBeNull = positive.operator === '!=' ? nulls : positive.operator === '=' && nulls.length === 2 ? [a] : []
    return all([positive, ...couldBeNull.map((side) => nullTest(side, false))], span)
  }

  /** A choice between truths: each branch, where no branch before it was taken. */
  private choice({ whens, otherwise, span }: Extract<Term, { kind: 'choice' }>, question: Question): Node {
    const before: Node[] = []
    const branches = whens.map(({ when, then }) => {
      const branch = all([...before, this.isTrue(when), this.ask(then, question)], span)
      before.push(this.isNotTrue(when))
      return branch
    })
    const last = otherwise ? this.ask(otherwise, question) : this.truthOf({ kind: 'null', span }, question)
    return any([...branches, all([...before, last], span)], span)
  }

  /** A condition that is true exactly where there is no value, or with `isWanted` false exactly where there is one. */
  private isNull(of: Term, isWanted: boolean): Node {
    this.count(of)
    const { span } = of
    switch (of.kind) {
      case 'value':
        return isLiteral(of.node) ? { kind: 'boolean', value: (of.node.kind === 'null') === isWanted, span } : nullTest(of.node, isWanted)
      case 'choice': {
        const asked = (then: Term): Term => ({ kind: 'is null', of: then, span })
        const nothing: Term = { kind: 'value', node: { kind: 'null', span }, span }
        return this.choice({ ...of, whens: of.whens.map(({ when, then }) => ({ when, then: asked(then) })), otherwise: asked(of.otherwise ?? nothing) }, isWanted ? 'true' : 'false')
      }
      default:
        return isWanted ? all([this.ask(of, 'not true'), this.ask(of, 'not false')], span) : any([this.ask(of, 'true'), this.ask(of, 'false')], span)
    }
  }
}

function yes(span: Span): Node {
  return { kind: 'boolean', value: true, span }
}

function no(span: Span): Node {
  return { kind: 'boolean', value: false, span }
}

function isBoolean(node: Node, value: boolean): boolean {
  return node.kind === 'boolean' && node.value === value
}

export function all(parts: readonly Node[], span: Span): Node {
  const left = parts.flatMap((part) => (part.kind === 'and' ? part.of : [part])).filter((part) => !isBoolean(part, true))
  if (left.some((part) => isBoolean(part, false))) return no(span)
  return left.length === 0 ? yes(span) : left.length === 1 ? left[0]! : { kind: 'and', of: left, span }
}

function any(parts: readonly Node[], span: Span): Node {
  const left = parts.flatMap((part) => (part.kind === 'or' ? part.of : [part])).filter((part) => !isBoolean(part, false))
  if (left.some((part) => isBoolean(part, true))) return yes(span)
  return left.length === 0 ? no(span) : left.length === 1 ? left[0]! : { kind: 'or', of: left, span }
}

function severalValues(span: Span): Error {
  return notUnderstood('Several values are only understood within functions such as SUM, AVERAGE and LOOKUP.', span)
}

/** Whether a value is null, or whether there is one; FEEL always knows. */
function nullTest(node: Node, isNull = true): Node {
  return { kind: 'comparison', operator: isNull ? '=' : '!=', left: node, right: { kind: 'null', span: node.span }, span: node.span }
}

function isLiteral({ kind }: Node): boolean {
  return kind === 'number' || kind === 'text' || kind === 'boolean' || kind === 'temporal' || kind === 'null'
}

/** What two literals come to; null where that is not known here. */
function compareLiterals(operator: ComparisonOperator, a: Node, b: Node): boolean | null {
  const value = (node: Node): Value | undefined => (node.kind === 'number' ? new Decimal(node.number) : node.kind === 'text' ? node.text : node.kind === 'boolean' ? node.value : undefined)
  const [left, right] = [value(a), value(b)]
  if (left === undefined || right === undefined) return null
  const order = compareValues(left, right)
  const equal = areEqual(left, right)
  switch (operator) {
    case '=':
      return equal
    case '!=':
      return equal === null ? null : !equal
    default:
      return order === null ? null : operator === '<' ? order < 0 : operator === '<=' ? order <= 0 : operator === '>' ? order > 0 : order >= 0
  }
}
