/** The cuts of a gate, and what lies beside them: where a value decides by a hair. */
import { printExpression } from '../expression/print'
import { freeNames, type Node } from '../expression/tree'
import type { Gate, Scale } from '../gate/document'
import type { ReadyGate } from '../bulk/decide-gates'
import { type Condition, conditionOf, testsOf } from '../rule/condition'
import { literalNode, nameNode, valueNode } from '../rule/literal'
import type { LoweredInput } from '../rule/rules'
import { simpleTest } from '../rule/simple-test'
import { compareValues } from '../value/compare'
import { Decimal } from '../value/number'
import { Remembered } from '../value/remembered'
import { type DateValue, isNumber, kindOf, type Value } from '../value/value'
import { textOfValue, valueFromText } from '../value/value-text'
import type { EdgeSide } from './tray'

export interface Edge {
  /** In canonical text. */
  at: string
  /** The records on each side; null where there is no tolerance. */
  sides: Record<EdgeSide, Condition | null>
}

/** All that is asked of one thing beside the rules themselves. */
export interface Asked {
  /** The input, or the expression's text. */
  of: string
  /** Ascending. */
  edges: Edge[]
  /** Values that are not expected; null where all are. */
  outside: Condition | null
}

/**
 * By what is cut, the places at which a test of the gate changes its mind. The ends of a scale are no cuts: what lies
 * beyond is off it. Nor are values that a test asks to be met exactly.
 * @returns inputs in their order, then expressions; what has neither edges nor expected values is left out
 */
export function edgesOf({ gate, lowered }: ReadyGate, today: DateValue): Asked[] {
  const cuts = new Map<string, { subject: Node; values: Value[] }>()
  const add = (subject: Node, value: Value) => {
    const of = subject.kind === 'name' ? subject.name : printExpression(subject)
    if (cuts.get(of)?.values.push(value) === undefined) cuts.set(of, { subject, values: [value] })
  }
  if (gate.form === 'rules') {
    for (const { condition } of lowered.rules) {
      for (const { tree } of testsOf(condition)) {
        // Two things compared with each other meet nowhere in particular.
        const isOfTwo = tree.kind === 'comparison' && [tree.left, tree.right].every((side) => freeNames(side).length > 0)
        const simple = isOfTwo ? null : simpleTest(tree, today)
        const ends = simple?.pieces.flatMap(({ low, high, isPoint }) => (isPoint ? [] : [low, high])) ?? []
        for (const end of ends) if (end !== null && kindOf(end) !== 'text') add(simple!.subject, end)
      }
    }
  } else {
    for (const { on, cuts: own } of scalesOf(gate)) {
      const { type } = lowered.inputs.get(on)!
      for (const { at } of own) add(nameNode(on), valueFromText(at, type))
    }
  }
  const names = [...lowered.inputs.keys()]
  const subjects = [...names, ...[...cuts.keys()].filter((of) => !lowered.inputs.has(of))]
  return subjects.flatMap((of): Asked[] => {
    const input = lowered.inputs.get(of)
    const { subject, values } = cuts.get(of) ?? { subject: null, values: [] }
    const outside = input ? outsideOf(input) : null
    const edges = edgesAt(subject, of, values, input?.tolerance ?? null)
    return edges.length > 0 || outside ? [{ of, outside, edges }] : []
  })
}

const known = new Remembered<Edge[]>(64)

/** @param values in any order, and some of them maybe twice. @returns ascending */
function edgesAt(subject: Node | null, of: string, values: readonly Value[], tolerance: string | null): Edge[] {
  if (subject === null) return []
  // While one cut moves, those on all other inputs stay.
  const texts = new Map(values.map((value) => [`${kindOf(value)} ${textOfValue(value)}`, value]))
  return known.of(JSON.stringify([of, tolerance, [...texts.keys()].toSorted()]), () =>
    [...texts.values()]
      .toSorted((a, b) => compareValues(a, b)!)
      .filter((value, at, all) => at === 0 || compareValues(value, all[at - 1]!) !== 0)
      .map((value) => edge(subject, value, tolerance)),
  )
}

function scalesOf(gate: Exclude<Gate, { form: 'rules' }>): Scale[] {
  if (gate.form === 'scale') return [gate]
  return gate.form === 'grid' ? [gate.down, gate.across].filter((side) => side.kind === 'scale') : []
}

const NOWHERE = { from: 0, to: 0 }

/** How far beside a cut still counts: a part of the cut may be asked for, whichever side of zero it lies on. */
function toleranceAt(tolerance: string, cut: Decimal): Decimal {
  return tolerance.endsWith('%') ? cut.abs().times(tolerance.slice(0, -1)).div(100) : new Decimal(tolerance)
}

function edge(subject: Node, value: Value, tolerance: string | null): Edge {
  const compare = (operator: '=' | '<' | '<=' | '>' | '>=', to: Value): Condition => conditionOf({ kind: 'comparison', operator, left: subject, right: valueNode(to), span: NOWHERE })
  const sides: Edge['sides'] = { on: compare('=', value), short: null, past: null }
  if (tolerance !== null && isNumber(value)) {
    const width = toleranceAt(tolerance, value)
    sides.short = { kind: 'all', of: [compare('>=', value.minus(width)), compare('<', value)] }
    sides.past = { kind: 'all', of: [compare('>', value), compare('<=', value.plus(width))] }
  }
  return { at: textOfValue(value), sides }
}

/** @returns null where every value is expected. A column set's members are not looked at one by one. */
function outsideOf({ name, type, isSet, expected }: LoweredInput): Condition | null {
  if (isSet || !expected) return null
  const subject = nameNode(name)
  const literal = (text: string) => literalNode(text, type)!
  if (expected.kind === 'list') return { kind: 'not', of: conditionOf({ kind: 'in', of: subject, tests: expected.values.map(literal), span: NOWHERE }) }
  const beyond = (operator: '<' | '<=' | '>' | '>=', at: string): Condition => conditionOf({ kind: 'comparison', operator, left: subject, right: literal(at), span: NOWHERE })
  const { low, high } = expected
  const sides = [low && beyond(low.included ? '<' : '<=', low.at), high && beyond(high.included ? '>' : '>=', high.at)].filter((side) => side !== null)
  return sides.length > 0 ? { kind: 'any', of: sides } : null
}

/** Holds for the records that are beside any of these edges, exactly on it or within its tolerance; null where there is no such side. */
export function besideAny({ edges }: Pick<Asked, 'edges'>, sides: readonly EdgeSide[]): Condition | null {
  const of = edges.flatMap((one) => sides.flatMap((side) => one.sides[side] ?? []))
  return of.length === 0 ? null : { kind: 'any', of }
}
