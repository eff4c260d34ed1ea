/**
 * One-step fixes for findings. A fix is only offered after it was tried: the finding goes, no error comes, and where a
 * hole is closed no record outside it gets another label.
 */
import { evaluate } from '../expression/evaluate'
import { parseExpression } from '../expression/parse'
import { printExpression } from '../expression/print'
import { freeNames, type Node, type NodeOf } from '../expression/tree'
import { EMPTY_LIBRARY, type Entry, type Gate, type Library, type RulesGate } from '../gate/document'
import { lower } from '../rule/lower'
import { areEqual } from '../value/compare'
import { parseTemporal } from '../value/temporal'
import { numberFromText } from '../value/value-text'
import type { DateValue, Value } from '../value/value'
import type { Finding } from './finding'
import { findingsOf } from './findings'
import { goesBeyond } from './reach'
import { studyOf } from './study'

/** Looks of one box at another, to see that a widened rule takes no more than a hole. */
const LOOKS = 100_000

export type Fix =
  | { kind: 'move rule'; rule: number; to: number }
  | { kind: 'remove rule'; rule: number }
  /** The rule's condition widened by values that nobody took. */
  | { kind: 'change condition'; rule: number; condition: string }
  /** A last rule for values that nobody took, with the results of one that is there. */
  | { kind: 'add rule'; condition: string; like: number }
  | { kind: 'rename labels'; from: string[]; to: string }
  | { kind: 'hold on blanks'; input: string }

/** @returns null where no single step is known to do */
export function fixFor(gate: Gate, finding: Finding, today: DateValue, library: Library = EMPTY_LIBRARY): Fix | null {
  const before = findingsIn(gate, today, library)
  return before && (candidates(gate, finding, today, library).find((fix) => {
    const after = findingsIn(applyFix(gate, fix), today, library)
    if (!after || !staysInside(gate, fix, finding, today, library)) return false
    const isNewError = (other: Finding) => other.severity === 'error' && !before.some((known) => keyOf(known) === keyOf(other))
    // Of all of its kind: a fix that only has another rule told of, as when two alike change places, is none.
    return countOf(after, finding.kind) < countOf(before, finding.kind) && !after.some(isNewError)
  }) ?? null)
}

export function applyFix(gate: Gate, fix: Fix): Gate {
  switch (fix.kind) {
    case 'move rule': {
      if (gate.form !== 'rules') return gate
      const { rules } = gate
      return { ...gate, rules: rules.toSpliced(fix.rule, 1).toSpliced(fix.to, 0, rules[fix.rule]!) }
    }
    case 'remove rule':
      if (gate.form === 'rules') return { ...gate, rules: gate.rules.toSpliced(fix.rule, 1) }
      return gate.form === 'match' ? { ...gate, lines: gate.lines.toSpliced(fix.rule, 1) } : gate
    case 'change condition':
      return gate.form === 'rules' ? { ...gate, rules: gate.rules.with(fix.rule, { ...gate.rules[fix.rule]!, condition: fix.condition }) } : gate
    case 'add rule':
      return gate.form === 'rules' ? { ...gate, rules: [...gate.rules, { ...gate.rules[fix.like]!, condition: fix.condition, note: '' }] } : gate
    case 'rename labels':
      return fix.from.reduce((changed, from) => renamed(changed, from, fix.to), gate)
    case 'hold on blanks':
      return { ...gate, inputs: gate.inputs.map((input) => (input.name === fix.input ? { ...input, blank: 'hold' as const } : input)) }
  }
}

function findingsIn(gate: Gate, today: DateValue, library: Library): Finding[] | null {
  const lowering = lower(gate, library)
  return 'lowered' in lowering ? findingsOf(lowering.lowered, today).findings : null
}

/** Tells a finding from others, also after rules have moved. */
export function keyOf({ kind, axis, where, labels }: Pick<Finding, 'kind' | 'axis' | 'where' | 'labels'>): string {
  return JSON.stringify([kind, axis, where, labels])
}

function countOf(findings: readonly Finding[], kind: Finding['kind']): number {
  return findings.filter((other) => other.kind === kind).length
}

/** Whether a widened rule takes nothing beyond what it took and the hole: records that had their labels keep them. */
function staysInside(gate: Gate, fix: Fix, { condition }: Finding, today: DateValue, library: Library): boolean {
  if (gate.form !== 'rules' || fix.kind !== 'change condition') return true
  const extra = [fix.condition, condition].map((text) => ({ ...gate.rules[fix.rule]!, condition: text }))
  const lowering = lower({ ...gate, rules: [...gate.rules, ...extra] }, library)
  if (!('lowered' in lowering)) return false
  const { rules, layout } = studyOf(lowering.lowered, today)
  const [before, widened, hole] = [rules[fix.rule], rules.at(-2), rules.at(-1)]
  return !!before && !!widened && !!hole && !goesBeyond(widened, [...before, ...hole], layout, { left: LOOKS })
}

function candidates(gate: Gate, { kind, rules, axis, where, labels, condition }: Finding, today: DateValue, library: Library): Fix[] {
  const [rule, ...others] = rules
  switch (kind) {
    case 'never reached': {
      const move: Fix[] = gate.form === 'rules' && others.length > 0 ? [{ kind: 'move rule', rule: rule!, to: Math.min(...others) }] : []
      return [...move, { kind: 'remove rule', rule: rule! }]
    }
    case 'no effect':
      return [{ kind: 'remove rule', rule: rule! }]
    case 'edge hole':
    case 'step hole': {
      if (gate.form !== 'rules') return []
      const widened = widenings(gate, axis!, where[axis!]!, today, library)
      // Where no rule can be widened without taking more than the hole, one more takes exactly that.
      const added = widened.flatMap((fix): Fix[] => (fix.kind === 'change condition' ? [{ kind: 'add rule', condition, like: fix.rule }] : []))
      return [...widened, ...added]
    }
    case 'near-same labels':
      return [{ kind: 'rename labels', from: labels.slice(1), to: labels[0]! }]
    case 'blank unsaid':
      return [{ kind: 'hold on blanks', input: axis! }]
    default:
      return []
  }
}

/** The cut value given to the rule above it, or else below; what lies between whole numbers, to the rule below. */
function widenings(gate: RulesGate, axis: string, where: string, today: DateValue, library: Library): Fix[] {
  const between = /^\((.*)\.\.(.*)\)$/.exec(where)
  const [at, up] = between ? [boundFrom(between[1]!), boundFrom(between[2]!)] : [boundFrom(where), null]
  if (at === null) return []
  const names = [...gate.inputs, ...(gate.conditions ?? []), ...library.conditions].map(({ name }) => name)
  const sides = between ? (['high'] as const) : (['low', 'high'] as const)
  return sides.flatMap((side) => gate.rules.flatMap(({ condition }, rule): Fix[] => {
    const parsed = parseExpression(condition, names)
    if ('problem' in parsed) return []
    const text = printExpression(widened(parsed.tree, { axis, side, at, up: between ? up : null, upText: between?.[2] ?? '', today }))
    return text === printExpression(parsed.tree) ? [] : [{ kind: 'change condition', rule, condition: text }]
  }))
}

interface Widening {
  axis: string
  /** The end that lies at the hole. */
  side: 'low' | 'high'
  at: Value
  /** Where the end moves to, then excluded; null where it stays and is included. */
  up: Value
  upText: string
  today: DateValue
}

function boundFrom(text: string): Value {
  const temporal = /^@"(.*)"$/.exec(text)
  return temporal ? parseTemporal(temporal[1]!) : numberFromText(text)
}

function widened(node: Node, widening: Widening): Node {
  const inside = (child: Node) => widened(child, widening)
  switch (node.kind) {
    case 'and': case 'or':
      return { ...node, of: node.of.map(inside) }
    case 'comparison':
      return printExpression(node.left) === widening.axis ? widenedComparison(node, widening) : node
    case 'between':
      return printExpression(node.of) === widening.axis ? widenedBetween(node, widening) : node
    case 'in':
      return printExpression(node.of) === widening.axis ? { ...node, tests: node.tests.map((test) => (test.kind === 'range' ? widenedRange(test, widening) : test)) } : node
    default:
      return node
  }
}

function isAt(end: Node | null, { at, today }: Widening): boolean {
  return end !== null && freeNames(end).length === 0 && areEqual(evaluate(end, { value: () => null, today }), at) === true
}

function upNode({ up, upText }: Widening, like: Node): Node {
  return like.kind === 'number' || numberFromText(upText) ? { kind: 'number', number: upText, span: like.span } : up === null ? like : { kind: 'temporal', text: upText.slice(2, -1), span: like.span }
}

function widenedComparison(node: NodeOf<'comparison'>, widening: Widening): Node {
  if (!isAt(node.right, widening)) return node
  if (widening.up !== null) return node.operator === '<=' ? { ...node, operator: '<', right: upNode(widening, node.right) } : node
  if (widening.side === 'low') return node.operator === '>' ? { ...node, operator: '>=' } : node
  return node.operator === '<' ? { ...node, operator: '<=' } : node
}

/** `between` has both its ends, so only what lies beyond the upper one can be missing; FEEL says it with a range. */
function widenedBetween(node: NodeOf<'between'>, widening: Widening): Node {
  if (widening.up === null || !isAt(node.high, widening)) return node
  const range: Node = { kind: 'range', low: node.low, high: upNode(widening, node.high), lowIncluded: true, highIncluded: false, span: node.span }
  return { kind: 'in', of: node.of, tests: [range], span: node.span }
}

function widenedRange(node: NodeOf<'range'>, widening: Widening): Node {
  const { side } = widening
  if (!isAt(node[side], widening)) return node
  if (widening.up !== null) return node.highIncluded ? { ...node, high: upNode(widening, node.high!), highIncluded: false } : node
  return side === 'low' ? { ...node, lowIncluded: true } : { ...node, highIncluded: true }
}

/** One label in place of another, wherever it is given. */
function renamed(gate: Gate, from: string, to: string): Gate {
  const entry = (entries: Entry[]): Entry[] => {
    const [first] = entries
    return first && 'is' in first && first.is === from ? [{ is: to }, ...entries.slice(1)] : entries
  }
  const [label, ...rest] = gate.outcomes
  const isListed = label!.labels.some(({ value }) => value === to)
  const labels = label!.labels.flatMap((one) => (one.value !== from ? [one] : isListed ? [] : [{ ...one, value: to }]))
  const common = { outcomes: [{ ...label!, labels }, ...rest], otherwise: gate.otherwise && entry(gate.otherwise) }
  const each = <One extends { entries: Entry[] }>(all: One[]) => all.map((one) => ({ ...one, entries: entry(one.entries) }))
  switch (gate.form) {
    case 'scale':
      return { ...gate, ...common, bands: each(gate.bands) }
    case 'rules':
      return { ...gate, ...common, rules: each(gate.rules) }
    case 'match':
      return { ...gate, ...common, lines: each(gate.lines) }
    case 'grid':
      return { ...gate, ...common, cells: gate.cells.map((row) => row.map((cell) => cell && entry(cell))) }
  }
}
