/** A place in a space in FEEL: some regions of an axis as a unary test, a box as a condition. */
import { printUnaryTests } from '../expression/print'
import { type Node, type NodeOf, TESTED } from '../expression/tree'
import type { Axis } from '../rule/axes'
import { callNode, nameNode, valueNode } from '../rule/literal'

const NOWHERE = { from: 0, to: 0 }

/** By axis the regions that a place keeps to; axes that it does not mind are left out. */
export type Place = readonly { axis: Axis; regions: readonly number[] }[]

/** As unary tests, by axis. */
export function unaryTexts(place: Place): Record<string, string> {
  return Object.fromEntries(place.map(({ axis, regions }) => [axis.name, unaryText(axis, regions)]))
}

/** As one expression that is true there, and only there. */
export function treeOf(place: Place): Node {
  const parts = place.map(({ axis, regions }) => testNode(axis, regions))
  return parts.length === 1 ? parts[0]! : { kind: 'and', of: parts, span: NOWHERE }
}

/** Some regions of an axis as a FEEL unary test. */
export function unaryText(axis: Axis, regions: readonly number[]): string {
  return printUnaryTests(memberOf(nameNode(TESTED), choiceOf(axis, regions)))
}

interface Choice {
  tests: Node[]
  /** Whether all but these are meant. */
  isNegated: boolean
}

/** Said by what is in or by what is not, whichever is shorter. */
function choiceOf(axis: Axis, regions: readonly number[]): Choice {
  const inside = new Set(regions)
  const others = axis.regions.flatMap((_, region) => (inside.has(region) ? [] : [region]))
  const open = axis.isOrdered ? -1 : axis.regions.findIndex(({ isPoint }) => !isPoint)
  const [within, outside] = [stretches(regions, axis), stretches(others, axis)]
  const isNegated = axis.isOrdered ? outside.length < within.length && outside.every(([from, to]) => from === to && axis.regions[from]!.isPoint) : inside.has(open)
  return { tests: (isNegated ? outside : within).map(([from, to]) => stretchNode(axis, from, to)), isNegated }
}

function memberOf(of: Node, { tests, isNegated }: Choice): Node {
  const member: Node = { kind: 'in', of, tests, span: NOWHERE }
  return isNegated ? callNode('not', member) : member
}

function testNode(axis: Axis, regions: readonly number[]): Node {
  const choice = choiceOf(axis, regions)
  const [only, ...more] = choice.tests
  if (!only || more.length > 0) return memberOf(axis.subject, choice)
  if (only.kind === 'boolean' && !axis.isInput) return only.value !== choice.isNegated ? axis.subject : callNode('not', axis.subject)
  if (only.kind !== 'range') return comparison(axis, choice.isNegated ? '!=' : '=', only)
  if (only.low && only.high) return memberOf(axis.subject, choice)
  return only.low ? comparison(axis, only.lowIncluded ? '>=' : '>', only.low) : comparison(axis, only.highIncluded ? '<=' : '<', only.high!)
}

/** A difference against nothing is said as it was most likely asked: one thing against the other. */
function comparison({ subject }: Axis, operator: NodeOf<'comparison'>['operator'], right: Node): Node {
  const isDifference = subject.kind === 'arithmetic' && subject.operator === '-' && right.kind === 'number' && right.number === '0'
  return { kind: 'comparison', operator, ...(isDifference ? { left: subject.left, right: subject.right } : { left: subject, right }), span: NOWHERE }
}

/** Runs of neighbouring regions, from first to last; where they are in no order, each for itself. */
export function stretches(regions: readonly number[], { isOrdered }: Axis): [from: number, to: number][] {
  const runs: [number, number][] = []
  for (const region of regions) {
    const last = runs.at(-1)
    if (isOrdered && last && last[1] === region - 1) last[1] = region
    else runs.push([region, region])
  }
  return runs
}

function stretchNode({ regions, isOrdered }: Axis, from: number, to: number): Node {
  const [first, last] = [regions[from]!, regions[to]!]
  if (!isOrdered || (from === to && first.isPoint)) return valueNode(first.example)
  const end = (value: typeof first.low) => (value === null ? null : valueNode(value))
  return { kind: 'range', low: end(first.low), high: end(last.high), lowIncluded: first.low !== null && first.isPoint, highIncluded: last.high !== null && last.isPoint, span: NOWHERE }
}
