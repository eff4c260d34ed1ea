/** The rules of a gate, ready to be written as one expression of another language. */
import { decideRecord, type Decision } from '@dime-gate/core/decide/decide-record'
import type { HitPolicy } from '@dime-gate/core/gate/document'
import { type Condition, testsOf } from '@dime-gate/core/rule/condition'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { simpleTest } from '@dime-gate/core/rule/simple-test'
import { childrenOf, freeNames, type Node } from '@dime-gate/core/expression/tree'
import type { DateValue } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { GateError } from '../gate-error'
import { isSame, type Language, type Piece } from './language'

/** What a rule, or otherwise, gives. */
export interface Result<P extends Piece> {
  /** One an outcome column. */
  outcomes: P[]
  /** Equal where two results are the same; null where that is only known when they are computed. */
  same: string | null
  /** Where a blank that holds leaves them open. */
  open: P
}

export interface LadderRule<P extends Piece> extends Result<P> {
  certain: P
  possible: P
  /** Whether a blank can leave it open. */
  canBeOpen: boolean
  /** Its place in the gate. */
  place: number
}

export interface Ladder<P extends Piece> {
  rules: LadderRule<P>[]
  otherwise: Result<P> | null
  hitPolicy: HitPolicy
  /** Where every rule looks at the same one input: whether that is blank, and what becomes of a record then. */
  onlyBlank: { isBlank: P; decision: Decision } | null
}

/** What is asked of the gate: an outcome by its place, the status, or the number of the rule, from 1. */
export type Wanted = { outcome: number } | 'status' | 'rule'

/** @param name an outcome's, `gate status` or `gate rule`; the label where none is named */
export function wantedOf({ name: gate, outcomes }: Lowered, name: string | undefined): Wanted {
  if (name === undefined) return { outcome: 0 }
  const outcome = outcomes.findIndex((one) => one.name === name)
  if (outcome >= 0) return { outcome }
  if (name === 'gate status') return 'status'
  if (name === 'gate rule') return 'rule'
  throw new GateError(`The gate “${gate}” has no outcome “${name}”. There are: ${[...outcomes.map((one) => one.name), 'gate status', 'gate rule'].join(', ')}.`)
}

/** How one result of the ladder is told. */
export interface Telling<P extends Piece> {
  rule(rule: LadderRule<P>): P
  none(status: 'held' | 'unplaced' | 'contested'): P
  /** What is left when no rule took the record. */
  rest(): P
}

export function tellingOf<P extends Piece>(language: Language<P>, { otherwise }: Ladder<P>, wanted: Wanted): Telling<P> {
  const none = (status: string) => (wanted === 'status' ? language.quoted(status) : language.nothing)
  return {
    rule: ({ outcomes, place }) => (wanted === 'status' ? language.quoted('labelled') : wanted === 'rule' ? language.number(place + 1) : outcomes[wanted.outcome]!),
    none,
    rest() {
      if (!otherwise) return none('unplaced')
      return wanted === 'status' ? language.quoted('otherwise') : wanted === 'rule' ? language.nothing : otherwise.outcomes[wanted.outcome]!
    },
  }
}

/** When two results differ: always, never, or where their values do. Nothing differs from everything. */
export function differ<P extends Piece>(language: Language<P>, a: Result<P> | null, b: Result<P> | null): P {
  if (!a || !b) return a === b ? language.no : language.yes
  if (a.same !== null && b.same !== null) return a.same === b.same ? language.no : language.yes
  const pairs = a.outcomes.map((outcome, at): [P, P] => [outcome, b.outcomes[at]!])
  return language.any([a.open, b.open, ...pairs.filter(([one, other]) => !isSame(one, other)).map(([one, other]) => language.areDistinct(one, other))])
}

/** What becomes of a record whose sole input is blank; null where its results are computed, and so are its own. */
export function decisionAtBlank(gate: Lowered, today: DateValue | null): Decision | null {
  const entries = [...gate.rules.map((rule) => rule.entries), gate.otherwise ?? []].flat()
  return entries.some((entry) => 'tree' in entry) ? null : decideRecord(gate, () => null, today ?? ANY_DAY)
}

/** The rules by the order of their outcomes' values, as the hit policy Priority has it. */
export function byPriority<P extends Piece>(rules: readonly LadderRule<P>[], gate: Lowered): LadderRule<P>[] {
  const ranks = rules.map(({ same, place }) => {
    if (same === null) throw new GateError('With the hit policy “priority”, results that are computed cannot be written.')
    return gate.rules[place]!.entries.map((entry, column) => {
      const { labels } = gate.outcomes[column]!
      const rank = labels.findIndex(({ value }) => 'value' in entry && value === textOfValue(entry.value))
      return rank < 0 ? labels.length : rank
    })
  })
  return rules.toSorted((a, b) => {
    const column = ranks[a.place]!.findIndex((rank, at) => rank !== ranks[b.place]![at])
    return column < 0 ? a.place - b.place : ranks[a.place]![column]! - ranks[b.place]![column]!
  })
}

/** The one input of all rules, where it alone can leave them open, and then leaves all of them; null where there is none. */
export function soleInput(gate: Lowered): string | null {
  const soles = gate.rules.map(({ condition }) => soleInputOf(condition))
  const [first] = soles
  if (!first || soles.some((input) => input !== first)) return null
  const { blank, isSet, figure } = gate.inputs.get(first)!
  return blank === 'pass' || isSet || (figure && isKnownInPart(figure)) ? null : first
}

/** Whether something can be known of a figure although a part of it is blank. */
function isKnownInPart(figure: Node): boolean {
  const isChoice = ['if', 'and', 'or', 'quantified', 'filter', 'for'].includes(figure.kind)
  return isChoice || (figure.kind === 'call' && (figure.name === 'max' || figure.name === 'min')) || childrenOf(figure).some(isKnownInPart)
}

const ANY_DAY = { kind: 'date', day: 0 } as const

function soleInputOf(condition: Condition): string | null {
  const subjects = new Set(testsOf(condition).map(({ tree, asksForBlanks }) => {
    const simple = asksForBlanks ? null : simpleTest(tree, ANY_DAY)
    return simple && isBlankWithItsInput(simple.subject) && freeNames(tree).length === 1 ? freeNames(tree)[0]! : null
  }))
  const [only] = subjects
  return subjects.size === 1 && only && !hasConstant(condition) ? only : null
}

/** Nothing comes of it exactly where nothing is given. */
function isBlankWithItsInput(subject: Node): boolean {
  return subject.kind === 'name' || (subject.kind === 'call' && ['lower case', 'upper case', 'replace'].includes(subject.name) && isBlankWithItsInput(subject.args[0]!))
}

/** Whether part of it is true or false whatever the record is. */
function hasConstant(condition: Condition): boolean {
  if (condition.kind === 'test') return false
  return condition.kind === 'not' ? hasConstant(condition.of) : condition.of.length === 0 || condition.of.some(hasConstant)
}
