/**
 * A test as a sentence of three parts: what it looks at, a relation, and values. Most tests can be said so; what cannot stays
 * an expression. Sentence and tree say the same of every record, blanks included.
 */
import type { Node, NodeOf } from '../expression/tree'
import { freeNames, MIRRORED, TESTED } from '../expression/tree'
import { parseDuration } from '../value/temporal'
import type { ValueKind } from '../value/value'
import { valueFromText } from '../value/value-text'
import { type Condition, conditionOf } from './condition'
import { callNode, literalNode, nameNode } from './literal'

type Compared = 'is' | 'is not' | 'at least' | 'above' | 'at most' | 'below'
/** On a date, against the as-of date. */
const AGAINST_TODAY = ['before today', 'until today', 'since today', 'after today'] as const
/** On a date: so many days from the as-of date, the day itself included. */
const DAYS = ['within days before', 'within days after', 'more than days before', 'more than days after'] as const
type OfText = 'contains' | 'starts with' | 'ends with' | 'contains not' | 'starts not with' | 'ends not with'
const LISTED = ['one of', 'none of'] as const
const BETWEEN = ['between', 'not between'] as const
const ALONE = ['yes', 'no', 'blank', 'not blank'] as const

export type Relation = Compared | OfText | (typeof AGAINST_TODAY | typeof DAYS | typeof LISTED | typeof BETWEEN | typeof ALONE)[number]

export interface Sentence {
  /** An input, or an expression of inputs. */
  subject: Node
  /** What kind of value the subject is. */
  kind: ValueKind
  relation: Relation
  /** In canonical text: none, one, the two ends of a range, as many as are listed, or a number of days. */
  values: string[]
  /** Of a range: whether its ends belong to it. */
  included: [low: boolean, high: boolean]
}

const ORDERED: Relation[] = [
  'at least',
  'above',
  'at most',
  'below',
  'between',
  'not between',
  'is',
  'is not',
  'one of',
  'none of',
  'blank',
  'not blank',
]

/** What can be said of a kind of value, what is said most first. */
export function relationsOf(kind: ValueKind): readonly Relation[] {
  switch (kind) {
    case 'text':
      return [
        'is',
        'is not',
        'one of',
        'none of',
        'contains',
        'contains not',
        'starts with',
        'starts not with',
        'ends with',
        'ends not with',
        'blank',
        'not blank',
      ]
    case 'boolean':
      return ['yes', 'no', 'blank', 'not blank']
    case 'date':
      return [...AGAINST_TODAY, ...DAYS, ...ORDERED]
    default:
      return ORDERED
  }
}

/** How many values a relation takes; null for a list. */
export function valueCount(relation: Relation): 0 | 1 | 2 | null {
  if (isOne(LISTED, relation)) return null
  if (isOne(BETWEEN, relation)) return 2
  return isOne(ALONE, relation) || isOne(AGAINST_TODAY, relation) ? 0 : 1
}

/** The kind of the values beside the subject: a date is told from today in days. */
export function valueKind({ kind, relation }: Pick<Sentence, 'kind' | 'relation'>): ValueKind {
  return isOne(DAYS, relation) ? 'number' : kind
}

/** The same subject with another relation; the values go along as far as they fit. @param first what stands where a value is wanted and none is there */
export function withRelation(sentence: Sentence, relation: Relation, first: string): Sentence {
  const isSameKind = isOne(DAYS, relation) === isOne(DAYS, sentence.relation)
  const usable = isSameKind ? sentence.values : []
  const count = valueCount(relation) ?? Math.max(1, usable.length)
  const fallback = isOne(DAYS, relation) ? '365' : first
  return { ...sentence, relation, values: Array.from({ length: count }, (_, at) => usable[at] ?? usable.at(-1) ?? fallback) }
}

const NEGATED: Partial<Record<Relation, Relation>> = {
  is: 'is not',
  'is not': 'is',
  'at least': 'below',
  below: 'at least',
  above: 'at most',
  'at most': 'above',
  'one of': 'none of',
  between: 'not between',
  contains: 'contains not',
  'starts with': 'starts not with',
  'ends with': 'ends not with',
  yes: 'no',
  blank: 'not blank',
  'not blank': 'blank',
  'before today': 'since today',
  'since today': 'before today',
  'after today': 'until today',
  'until today': 'after today',
}

/** @param kindOf the kind of an expression's value; null where it has none that can be tested. @returns null where it stays an expression */
export function sentenceOf(condition: Condition, kindOf: (subject: Node) => ValueKind | null): Sentence | null {
  if (condition.kind === 'test') return sentenceOfTest(condition.tree, kindOf)
  if (condition.kind !== 'not' || condition.of.kind !== 'test') return null
  const inner = sentenceOfTest(condition.of.tree, kindOf)
  const negated = inner && NEGATED[inner.relation]
  return negated ? { ...inner, relation: negated } : null
}

function sentenceOfTest(tree: Node, kindOf: (subject: Node) => ValueKind | null): Sentence | null {
  const said = saidBy(tree)
  if (!said || freeNames(said.subject).length === 0 || freeNames(said.subject).includes(TESTED)) return null
  const kind = kindOf(said.subject)
  if (kind === null || !relationsOf(kind).includes(said.relation)) return null
  // A value of another kind is never equal: that is for an expression to say.
  const wanted = valueKind({ kind, relation: said.relation })
  const fits = said.values.every(({ text, kind: own }) => own === wanted && valueFromText(text, wanted) !== null)
  return fits ? { ...said, kind, values: said.values.map(({ text }) => text) } : null
}

interface Literal {
  text: string
  kind: ValueKind
}

interface Said {
  subject: Node
  relation: Relation
  values: Literal[]
  included: [boolean, boolean]
}

const CLOSED: [boolean, boolean] = [true, true]
const said = (subject: Node, relation: Relation, values: Literal[] = [], included = CLOSED): Said => ({
  subject,
  relation,
  values,
  included,
})

function saidBy(tree: Node): Said | null {
  switch (tree.kind) {
    case 'name':
    case 'path':
      return said(tree, 'yes')
    case 'comparison':
      return saidByComparison(tree)
    case 'between':
      return saidByRange(tree.of, tree.low, tree.high, CLOSED)
    case 'in': {
      const only = tree.tests.length === 1 ? tree.tests[0]! : null
      if (only?.kind === 'range')
        return only.low && only.high ? saidByRange(tree.of, only.low, only.high, [only.lowIncluded, only.highIncluded]) : null
      const items = only?.kind === 'list' ? only.items : tree.tests
      const values = items.map(literalOf)
      return values.length > 0 && values.every((value) => value !== null) ? said(tree.of, 'one of', values) : null
    }
    case 'call': {
      if (!isOne(['contains', 'starts with', 'ends with'] as const, tree.name) || tree.names !== null || tree.args.length !== 2) return null
      const value = literalOf(tree.args[1]!)
      return value ? said(tree.args[0]!, tree.name, [value]) : null
    }
    default:
      return null
  }
}

const BY_OPERATOR = { '=': 'is', '!=': 'is not', '>=': 'at least', '>': 'above', '<=': 'at most', '<': 'below' } as const
const TODAY_BY_OPERATOR = { '<': 'before today', '<=': 'until today', '>=': 'since today', '>': 'after today' } as const

function saidByComparison({ operator, left, right }: NodeOf<'comparison'>): Said | null {
  if (right.kind === 'null' || left.kind === 'null') {
    const subject = right.kind === 'null' ? left : right
    return operator === '=' || operator === '!=' ? said(subject, operator === '=' ? 'blank' : 'not blank') : null
  }
  const isMirrored = freeNames(left).length === 0 && freeNames(right).length > 0
  const [subject, other, sign] = isMirrored ? [right, left, MIRRORED[operator]] : [left, right, operator]
  if (other.kind === 'boolean' && (sign === '=' || sign === '!=')) return null
  const value = literalOf(other)
  if (value) return said(subject, BY_OPERATOR[sign], [value])
  const days = daysFromToday(other)
  if (days === null || sign === '=' || sign === '!=') return null
  if (days === 0) return said(subject, TODAY_BY_OPERATOR[sign])
  if (sign === '<' && days < 0) return said(subject, 'more than days before', [daysLiteral(-days)])
  return sign === '>' && days > 0 ? said(subject, 'more than days after', [daysLiteral(days)]) : null
}

function saidByRange(subject: Node, low: Node, high: Node, included: [boolean, boolean]): Said | null {
  const [from, to] = [literalOf(low), literalOf(high)]
  if (from && to) return said(subject, 'between', [from, to], included)
  const [first, last] = [daysFromToday(low), daysFromToday(high)]
  if (first === null || last === null || !included[0] || !included[1]) return null
  if (last === 0 && first < 0) return said(subject, 'within days before', [daysLiteral(-first)])
  return first === 0 && last > 0 ? said(subject, 'within days after', [daysLiteral(last)]) : null
}

/** A value written out; null where it has to be worked out, or is none. */
function literalOf(node: Node): Literal | null {
  switch (node.kind) {
    case 'number':
      return { text: node.number, kind: 'number' }
    case 'negate':
      return node.of.kind === 'number' && !node.of.number.startsWith('-') ? { text: `-${node.of.number}`, kind: 'number' } : null
    case 'text':
      return { text: node.text, kind: 'text' }
    case 'temporal': {
      const kind = (['date', 'time', 'date and time', 'days and time duration', 'years and months duration'] as const).find(
        (one) => valueFromText(node.text, one) !== null,
      )
      return kind ? { text: node.text, kind } : null
    }
    default:
      return null
  }
}

/** `today()`, and so many whole days before or after it; null where it is something else. */
function daysFromToday(node: Node): number | null {
  if (isToday(node)) return 0
  if (
    node.kind !== 'arithmetic' ||
    !isToday(node.left) ||
    (node.operator !== '+' && node.operator !== '-') ||
    node.right.kind !== 'temporal'
  )
    return null
  const days = /^P(\d{1,6})D$/.exec(node.right.text)
  if (!days || !parseDuration(node.right.text)) return null
  return node.operator === '+' ? Number(days[1]) : -Number(days[1])
}

function isToday(node: Node): boolean {
  return node.kind === 'call' && node.name === 'today' && node.args.length === 0
}

function daysLiteral(days: number): Literal {
  return { text: String(days), kind: 'number' }
}

const NOWHERE = { from: 0, to: 0 }
const OPERATORS = { is: '=', 'is not': '!=', 'at least': '>=', above: '>', 'at most': '<=', below: '<' } as const
const TODAY_OPERATORS = { 'before today': '<', 'until today': '<=', 'since today': '>=', 'after today': '>' } as const

/** The condition that a sentence says. @throws Error where a value is none of the subject's kind */
export function conditionSaid(sentence: Sentence): Condition {
  return conditionOf(treeSaid(sentence))
}

function treeSaid({ subject, kind, relation, values, included }: Sentence): Node {
  const compare = (operator: NodeOf<'comparison'>['operator'], right: Node): Node => ({
    kind: 'comparison',
    operator,
    left: subject,
    right,
    span: NOWHERE,
  })
  const value = (at: number) => literal(values[at]!, kind)
  const not = (tree: Node) => callNode('not', tree)
  switch (relation) {
    case 'is':
    case 'is not':
    case 'at least':
    case 'above':
    case 'at most':
    case 'below':
      return compare(OPERATORS[relation], value(0))
    case 'before today':
    case 'until today':
    case 'since today':
    case 'after today':
      return compare(TODAY_OPERATORS[relation], callNode('today'))
    case 'more than days before':
      return compare('<', fromToday('-', values[0]!))
    case 'more than days after':
      return compare('>', fromToday('+', values[0]!))
    case 'within days before':
      return within(subject, fromToday('-', values[0]!), callNode('today'), CLOSED)
    case 'within days after':
      return within(subject, callNode('today'), fromToday('+', values[0]!), CLOSED)
    case 'between':
      return within(subject, value(0), value(1), included)
    case 'not between':
      return not(within(subject, value(0), value(1), included))
    case 'one of':
      return { kind: 'in', of: subject, tests: values.map((text) => literal(text, kind)), span: NOWHERE }
    case 'none of':
      return not({ kind: 'in', of: subject, tests: values.map((text) => literal(text, kind)), span: NOWHERE })
    case 'contains':
    case 'starts with':
    case 'ends with':
      return callNode(relation, subject, value(0))
    case 'contains not':
      return not(callNode('contains', subject, value(0)))
    case 'starts not with':
      return not(callNode('starts with', subject, value(0)))
    case 'ends not with':
      return not(callNode('ends with', subject, value(0)))
    case 'yes':
      return subject
    case 'no':
      return not(subject)
    case 'blank':
      return compare('=', { kind: 'null', span: NOWHERE })
    case 'not blank':
      return compare('!=', { kind: 'null', span: NOWHERE })
  }
}

function literal(text: string, kind: ValueKind): Node {
  const node = literalNode(text, kind)
  if (!node) throw new Error(`“${text}” is no ${kind}`)
  return node
}

function fromToday(operator: '+' | '-', days: string): Node {
  return {
    kind: 'arithmetic',
    operator,
    left: callNode('today'),
    right: { kind: 'temporal', text: `P${days}D`, span: NOWHERE },
    span: NOWHERE,
  }
}

function within(of: Node, low: Node, high: Node, [lowIncluded, highIncluded]: [boolean, boolean]): Node {
  return { kind: 'in', of, tests: [{ kind: 'range', low, high, lowIncluded, highIncluded, span: NOWHERE }], span: NOWHERE }
}

/** A first thing to say of an input, to be changed. */
export function firstSentence(name: string, kind: ValueKind, value: string): Sentence {
  const [relation] = kind === 'date' ? (['before today'] as const) : relationsOf(kind)
  return { subject: nameNode(name), kind, relation: relation!, values: valueCount(relation!) === 0 ? [] : [value], included: [true, false] }
}

function isOne<One extends string>(all: readonly One[], value: string): value is One {
  return (all as readonly string[]).includes(value)
}
