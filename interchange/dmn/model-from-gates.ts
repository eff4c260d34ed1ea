/** Gates as a DMN model: each a decision with a table that decides as the gate does wherever nothing is blank. */
import { printExpression, printUnaryTests } from '@dime-gate/core/expression/print'
import { substitute } from '@dime-gate/core/expression/substitute'
import { nameTrouble } from '@dime-gate/core/expression/names'
import { freeNames, type Node, TESTED } from '@dime-gate/core/expression/tree'
import { type Condition, conditionTree } from '@dime-gate/core/rule/condition'
import type { Expected, Gate, Input, Library, OutcomeColumn, Precision } from '@dime-gate/core/gate/document'
import { withoutIdleRules } from '@dime-gate/core/gate/form'
import { gateOrder } from '@dime-gate/core/gate/gate-order'
import { callNode, literalNode, nameNode } from '@dime-gate/core/rule/literal'
import { lower } from '@dime-gate/core/rule/lower'
import type { Lowered, LoweredEntry } from '@dime-gate/core/rule/rules'
import { textOfValue } from '@dime-gate/core/value/value-text'
import type { ValueKind } from '@dime-gate/core/value/value'
import { GateError } from '../gate-error'
import { ROUNDING_FUNCTIONS } from '../rounding-functions'
import { NO_XML_CHARACTER } from '../xml/write-xml'
import type { DmnDecision, DmnInput, DmnModel, DmnTable, DmnType, Feel } from './model'

const NOWHERE = { line: 1, column: 1 }
const feel = (text: string): Feel => ({ text: PLAIN.test(text) ? text : text.replace(NO_XML_CHARACTER, escapeOf), at: NOWHERE })
/** Nothing in such a text needs a second look. */
const PLAIN = /^[ -~]*$/

/** @throws GateError where a gate cannot decide, or two gates mean different things by one name */
export function modelFromGates(library: Library): DmnModel {
  const order = gateOrder(library.gates)
  if ('loop' in order) throw new GateError(`These gates need each other, in a ring: ${order.loop.join(', ')}.`)
  const gates = order.order.map((name) => withoutIdleRules(library.gates.find((gate) => gate.name === name)!))
  const inputs = new Map<string, DmnInput>()
  const decisions: DmnDecision[] = []
  const known = new Map<string, { gate: Gate; decision: DmnDecision }>()
  for (const input of gates.flatMap((gate) => gate.inputs)) if (input.source.kind === 'given') addInput(inputs, input)
  for (const gate of gates) {
    const lowering = lower(gate, library)
    if (!('lowered' in lowering)) throw new GateError(`The gate “${gate.name}” cannot decide yet, so it cannot be written: ${lowering.problems[0]!.code} at ${lowering.problems[0]!.path}.`)
    const decision = decisionOf(gate, lowering.lowered, `decision_${decisions.length + 1}`, inputs, known)
    known.set(gate.name, { gate, decision })
    decisions.push(decision)
  }
  const [only] = gates
  return {
    name: gates.length === 1 ? only!.name : 'Gates', inputs: [...inputs.values()], decisions,
    conditions: library.conditions.length > 0 ? jsonText(library.conditions) : null,
  }
}

/** JSON without characters that XML cannot hold. */
function jsonText(data: unknown): string {
  return JSON.stringify(data).replace(NO_XML_CHARACTER, escapeOf)
}

function escapeOf(character: string): string {
  return `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`
}

function addInput(inputs: Map<string, DmnInput>, input: Input): void {
  const before = inputs.get(input.name)
  const type = typeOf(input)
  if (before && (before.type.kind !== type.kind || before.type.isList !== type.isList)) {
    throw new GateError(`Two gates have an input “${input.name}”, of different types. In one file it can have one; rename it in one of them.`)
  }
  if (!before) inputs.set(input.name, { id: `input_${inputs.size + 1}`, name: input.name, type, at: NOWHERE })
}

function typeOf({ type, isSet, expected }: Input): DmnType {
  return { kind: type, isList: isSet, allowed: expected && allowedValues(expected, type), parts: [] }
}

function allowedValues(expected: Expected, kind: ValueKind): Feel | null {
  if (expected.kind === 'list') return expected.values.length > 0 ? feel(expected.values.map((value) => printExpression(literalNode(value, kind)!)).join(', ')) : null
  const { low, high } = expected
  if (!low && !high) return null
  const end = (bound: typeof low) => bound && literalNode(bound.at, kind)
  return feel(testText({ kind: 'range', low: end(low), high: end(high), lowIncluded: low?.included ?? false, highIncluded: high?.included ?? false, span: { from: 0, to: 0 } }))
}

function testText(...tests: Node[]): string {
  return printUnaryTests({ kind: 'in', of: nameNode(TESTED), tests, span: { from: 0, to: 0 } })
}

type Known = ReadonlyMap<string, { gate: Gate; decision: DmnDecision }>

function decisionOf(gate: Gate, lowered: Lowered, id: string, inputs: ReadonlyMap<string, DmnInput>, known: Known): DmnDecision {
  if (gate.name.search(NO_XML_CHARACTER) >= 0) throw new GateError(`The name of the gate “${gate.name}” holds a character that XML cannot. Rename it.`)
  const values = inputValues(lowered, known)
  const requires = gate.inputs.flatMap(({ name, source }) => {
    const required = source.kind === 'given' ? inputs.get(name)!.id : source.kind === 'gate' ? known.get(source.gate)!.decision.id : null
    return required === null ? [] : [required]
  })
  return {
    id, name: gate.name, variable: variableName(gate, inputs, known), requires: [...new Set(requires)].map((id) => ({ id, at: NOWHERE })),
    type: { kind: gate.outcomes.length === 1 ? resultKind(lowered, 0) : null, isList: false, allowed: null, parts: [] },
    logic: isLiteral(gate) ? { kind: 'literal', expression: feel(entryText(lowered.rules[0]!.entries[0]!, gate.outcomes[0]!, values)) } : tableOf(gate, lowered, values),
    document: jsonText(gate), at: NOWHERE,
  }
}

/** One value for every record, computed: what DMN calls a literal expression. */
export function isLiteral(gate: Gate): boolean {
  if (gate.form !== 'rules' || gate.hitPolicy !== 'first' || gate.otherwise || gate.rules.length !== 1 || gate.outcomes.length !== 1) return false
  const [rule] = gate.rules
  return ['-', 'true'].includes(rule!.condition.trim()) && rule!.note === '' && rule!.entries[0] !== null && 'feel' in rule!.entries[0]!
}

function resultKind({ hitPolicy, outcomes }: Lowered, at: number): ValueKind | null {
  if (hitPolicy === 'collect count') return 'number'
  return ['collect', 'rule order', 'output order'].includes(hitPolicy) ? null : outcomes[at]!.type
}

/** What expressions call the gate's result: its name, without the signs that no name may hold. */
function variableName(gate: Gate, inputs: ReadonlyMap<string, DmnInput>, known: Known): string {
  const taken = new Set([...inputs.keys(), ...[...known.values()].map(({ decision }) => decision.variable)])
  const plain = nameTrouble(gate.name) ? `${gate.name.replace(/[^\p{L}\p{N}_ ]+/gu, ' ').replace(/ +/g, ' ').trim()} result`.replace(/^(?=\d)/, 'Gate ').trim() : gate.name
  let name = plain
  for (let number = 2; taken.has(name) || nameTrouble(name); number++) name = `${nameTrouble(plain) ? 'Gate result' : plain} ${number}`
  return name
}

/** By input, what stands for its value in the model: figures written out, precision as a call that rounds. */
function inputValues({ inputs }: Lowered, known: Known): Map<string, Node> {
  const values = new Map<string, Node>()
  for (const { name, source, figure, precision, isSet } of inputs.values()) {
    let value = figure ? substitute(figure, values) : nameNode(name)
    if (source.kind === 'gate') {
      const { gate, decision } = known.get(source.gate)!
      value = nameNode(gate.outcomes.length === 1 ? decision.variable : `${decision.variable}.${source.outcome ?? gate.outcomes[0]!.name}`)
    }
    values.set(name, rounding(value, precision, isSet))
  }
  return values
}

function rounding(value: Node, precision: Precision, isSet: boolean): Node {
  if (precision.kind === 'as measured') return value
  const places: Node = { kind: 'number', number: String(precision.places), span: { from: 0, to: 0 } }
  const rounded = (of: Node) => callNode(ROUNDING_FUNCTIONS[precision.kind], of, places)
  return isSet ? { kind: 'for', variables: [{ name: 'member', over: value }], result: rounded(nameNode('member')), span: { from: 0, to: 0 } } : rounded(value)
}

function tableOf(gate: Gate, lowered: Lowered, values: ReadonlyMap<string, Node>): DmnTable {
  const columns = new Map<string, number>()
  const cells = lowered.rules.map(({ condition }) => {
    const row = new Map<number, string>()
    const seen = new Map<string, number>()
    const others: Node[] = []
    for (const part of conjuncts(condition)) {
      const cell = cellOf(substitute(part, values))
      if (!cell) {
        others.push(substitute(part, values))
        continue
      }
      const nth = (seen.get(cell.subject) ?? 0) + 1
      seen.set(cell.subject, nth)
      row.set(columnFor(columns, `${cell.subject}\n${nth}`), cell.test)
    }
    if (others.length > 0) row.set(columnFor(columns, 'true\n1'), asCell(others.length === 1 ? others[0]! : { kind: 'and', of: others, span: { from: 0, to: 0 } }))
    return row
  })
  const notes = gate.form === 'rules' ? gate.rules.map(({ note }) => note) : []
  return {
    // The parts of the other forms never overlap, and it is well to say so.
    kind: 'table', hitPolicy: gate.form === 'rules' ? gate.hitPolicy : 'unique', at: NOWHERE,
    inputs: [...columns.keys()].map((key) => ({ expression: feel(key.split('\n')[0]!), type: clauseType(key.split('\n')[0]!, lowered), values: null })),
    outputs: gate.outcomes.map((outcome, at) => ({
      // The single output of a table goes by the decision's name (DMN 1.5 clause 8.3.2).
      name: gate.outcomes.length === 1 ? null : outcome.name, type: { kind: outcome.type, isList: false, allowed: null, parts: [] },
      values: outcome.labels.length > 0 ? feel(outcome.labels.map(({ value }) => printExpression(literalNode(value, outcome.type)!)).join(', ')) : null,
      otherwise: lowered.otherwise && feel(entryText(lowered.otherwise[at]!, outcome, values)), at: NOWHERE,
    })),
    rules: cells.map((row, rule) => ({
      tests: [...columns.values()].map((column) => feel(row.get(column) ?? '-')),
      entries: lowered.rules[rule]!.entries.map((entry, at) => feel(entryText(entry, gate.outcomes[at]!, values))),
      note: (notes[rule] ?? '').trim(), at: NOWHERE,
    })),
  }
}

/** A condition for a column of `true`. Without brackets `not(…)` would negate the cell's tests instead of being one. */
function asCell(condition: Node): string {
  const text = printExpression(condition)
  return text.startsWith('not(') ? `(${text})` : text
}

function columnFor(columns: Map<string, number>, key: string): number {
  const known = columns.get(key) ?? columns.size
  columns.set(key, known)
  return known
}

/** Where an input stands alone in a column, its type is known. */
function clauseType(subject: string, { inputs }: Lowered): DmnType {
  const input = inputs.get(subject)
  const kind = subject === 'true' ? 'boolean' : input && !input.isSet ? input.type : null
  return { kind, isList: false, allowed: null, parts: [] }
}

function conjuncts(condition: Condition): Node[] {
  return condition.kind === 'all' ? condition.of.flatMap(conjuncts) : [conditionTree(condition)]
}

/** A test as a cell: what it looks at, and unary tests; null where it is not about one thing against constants. */
function cellOf(tree: Node): { subject: string; test: string } | null {
  const isConstant = (node: Node) => freeNames(node).length === 0
  switch (tree.kind) {
    case 'name':
      return { subject: tree.name, test: 'true' }
    case 'comparison': {
      const { left, right, operator } = tree
      if (isConstant(left) || !isConstant(right) || right.kind === 'list' || right.kind === 'range') return null
      const range = { kind: 'range' as const, lowIncluded: operator === '>=', highIncluded: operator === '<=', span: tree.span }
      const test = operator === '=' ? testText(right) : operator === '!=' ? `not(${testText(right)})`
        : operator.startsWith('<') ? testText({ ...range, low: null, high: right }) : testText({ ...range, low: right, high: null })
      return { subject: printExpression(left), test }
    }
    case 'between':
      if (isConstant(tree.of) || !isConstant(tree.low) || !isConstant(tree.high)) return null
      return { subject: printExpression(tree.of), test: testText({ kind: 'range', low: tree.low, high: tree.high, lowIncluded: true, highIncluded: true, span: tree.span }) }
    case 'in':
      return isConstant(tree.of) || !tree.tests.every(isConstant) ? null : { subject: printExpression(tree.of), test: testText(...tree.tests) }
    default:
      return null
  }
}

function entryText(entry: LoweredEntry, outcome: OutcomeColumn, values: ReadonlyMap<string, Node>): string {
  if ('tree' in entry) return printExpression(substitute(entry.tree, values))
  return entry.value === null ? 'null' : printExpression(literalNode(textOfValue(entry.value), outcome.type)!)
}
