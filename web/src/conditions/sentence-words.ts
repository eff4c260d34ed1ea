/** Sentences of tests in words, part by part, so that each part can be pointed at. */
import type { Node } from '@dime-gate/core/expression/tree'
import type { Gate } from '@dime-gate/core/gate/document'
import type { Condition } from '@dime-gate/core/rule/condition'
import { kindOfSubject, readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import { type Relation, type Sentence, sentenceOf, valueCount } from '@dime-gate/core/rule/sentence'
import { printExpression } from '@dime-gate/core/expression/print'
import type { ValueKind } from '@dime-gate/core/value/value'
import { date, number } from '../shared/format'

/** What stands before the values, and what after them. */
type RelationWords = [before: string, after?: string]

const WORDS: Record<Relation, RelationWords> = {
  is: ['is'],
  'is not': ['is not'],
  'at least': ['at least'],
  above: ['above'],
  'at most': ['at most'],
  below: ['below'],
  between: ['from'],
  'not between': ['not from'],
  'one of': ['is one of'],
  'none of': ['is none of'],
  contains: ['contains'],
  'contains not': ['does not contain'],
  'starts with': ['begins with'],
  'starts not with': ['does not begin with'],
  'ends with': ['ends with'],
  'ends not with': ['does not end with'],
  yes: ['is yes'],
  no: ['is no'],
  blank: ['is blank'],
  'not blank': ['is not blank'],
  'before today': ['before the as-of date'],
  'until today': ['on or before the as-of date'],
  'since today': ['on or after the as-of date'],
  'after today': ['after the as-of date'],
  'within days before': ['within', 'days before the as-of date'],
  'within days after': ['within', 'days after the as-of date'],
  'more than days before': ['more than', 'days before the as-of date'],
  'more than days after': ['more than', 'days after the as-of date'],
}
const OF_DATES: Partial<Record<Relation, RelationWords>> = {
  is: ['on'],
  'is not': ['not on'],
  'at least': ['on or after'],
  above: ['after'],
  'at most': ['on or before'],
  below: ['before'],
}

const OF_CONDITIONS: Partial<Record<Relation, RelationWords>> = {
  yes: ['holds'],
  no: ['does not hold'],
  blank: ['is not known'],
  'not blank': ['is known'],
}

/** @param isNamed whether it is said of a named condition */
export function relationWords(relation: Relation, kind: ValueKind, isNamed = false): RelationWords {
  return (isNamed && OF_CONDITIONS[relation]) || (kind === 'date' && OF_DATES[relation]) || WORDS[relation]
}

/** As one of several to choose from. */
export function relationChoice(relation: Relation, kind: ValueKind, isNamed = false): string {
  const [before, after] = relationWords(relation, kind, isNamed)
  if (after) return `${before} … ${after}`
  return valueCount(relation) === 2 ? `${before} … to …` : before
}

/** Words of the ends of a range: whether each belongs to it. */
export const END_WORDS = { low: { true: 'from', false: 'above' }, high: { true: 'to', false: 'to under' } } as const

export function literalWords(text: string, kind: ValueKind): string {
  if (kind === 'number') return number(text)
  if (kind === 'date') return date(text)
  return text === '' ? 'nothing' : text
}

/** A figure and its unit stand together: `25 %`, but `18°`. */
export function withUnitWords(words: string, unit: string): string {
  return unit === '' ? words : /^[°′″]/.test(unit) ? `${words}${unit}` : `${words}\u00a0${unit}`
}

export interface SentencePart {
  /** What is changed when it is pointed at. */
  part: 'subject' | 'relation' | `value ${number}` | null
  words: string
}

/**
 * @param unit of the subject; empty where it has none
 * @param isNamed whether the subject is a named condition
 */
export function sentenceParts(sentence: Sentence, unit: string, isNamed = false): SentencePart[] {
  const { subject, kind, relation, values, included } = sentence
  const [before, after] = relationWords(relation, kind, isNamed)
  const isInDays = after !== undefined
  const value = (at: number): SentencePart => ({
    part: `value ${at}`,
    words: isInDays ? number(values[at]!) : literalWords(values[at]!, kind),
  })
  const parts: SentencePart[] = [{ part: 'subject', words: printExpression(subject) }]
  if (valueCount(relation) === 2) {
    const [low, high] = included.map(String) as ['true' | 'false', 'true' | 'false']
    const not = relation === 'not between' ? 'not ' : ''
    return [
      ...parts,
      { part: 'relation', words: `${not}${END_WORDS.low[low]}` },
      value(0),
      { part: null, words: END_WORDS.high[high] },
      { ...value(1), words: withUnitWords(value(1).words, unit) },
    ]
  }
  parts.push({ part: 'relation', words: before })
  values.forEach((_, at) => {
    const isLast = at === values.length - 1
    const { part, words } = value(at)
    parts.push({ part, words: `${isInDays || !isLast ? words : withUnitWords(words, unit)}${isLast ? '' : ','}` })
  })
  if (after) parts.push({ part: null, words: after })
  return parts
}

/** Puts conditions on a gate's inputs in words; what no sentence says stays as it is written. */
export function conditionWordsOf(gate: Pick<Gate, 'inputs' | 'conditions'>): (text: string) => string {
  const { inputs, conditions = [] } = gate
  const types = typesIn(gate)
  const isNamed = ({ kind, ...subject }: Node) => kind === 'name' && 'name' in subject && conditions.some(({ name }) => name === subject.name)
  const kindOf = kindOfSubject(types)
  const unitOf = ({ kind, ...subject }: Node) =>
    kind === 'name' && 'name' in subject ? (inputs.find(({ name }) => name === subject.name)?.unit ?? '') : ''
  const words = (condition: Condition, isInner: boolean): string => {
    const sentence = sentenceOf(condition, kindOf)
    if (sentence) return sentenceWords(sentence, unitOf(sentence.subject), isNamed(sentence.subject))
    if (condition.kind === 'test') return condition.text
    if (condition.kind === 'not') return `not (${words(condition.of, false)})`
    if (condition.of.length === 0) return condition.kind === 'all' ? 'any record' : 'no record'
    const all = condition.of.map((part) => words(part, true))
    // Within another part it is heard where this one begins, so that nobody has to know what binds closer.
    if (condition.kind === 'all') return `${isInner ? (all.length === 2 ? 'both ' : 'all of ') : ''}${all.join(' and ')}`
    return isInner ? `either ${all.join(' or ')}` : all.join(' or ')
  }
  return (text) => {
    const read = readCondition(text, types)
    return 'condition' in read ? words(read.condition, false) : text
  }
}

/** A sentence as one text. */
export function sentenceWords(sentence: Sentence, unit: string, isNamed = false): string {
  return sentenceParts(sentence, unit, isNamed)
    .map(({ words }) => words)
    .join(' ')
}
