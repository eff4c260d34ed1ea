/** A DMN model as gates: each decision one, on inputs that pass when blank, as the standard has it. */
import { checkExpression } from '@dime-gate/core/expression/check'
import { type Names, namesOf, nameTrouble } from '@dime-gate/core/expression/names'
import { parseExpression, parseUnaryTests } from '@dime-gate/core/expression/parse'
import { printExpression } from '@dime-gate/core/expression/print'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { substitute } from '@dime-gate/core/expression/substitute'
import { freeNames, type Node, TESTED } from '@dime-gate/core/expression/tree'
import { commonType, fits, type Type, typeText } from '@dime-gate/core/expression/type'
import type { Entry, Expected, Gate, HitPolicy, Input, Label, OutcomeColumn } from '@dime-gate/core/gate/document'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { lower } from '@dime-gate/core/gate/lower'
import { markFor } from '@dime-gate/core/gate/mark'
import { dependencyOrder } from '@dime-gate/core/gate/order'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { type ValueKind, VALUE_KINDS } from '@dime-gate/core/value/value'
import { type Place, sourceError } from '../source-problem'
import { literalText } from '../literal-text'
import type { DmnDecision, DmnModel, DmnTable, DmnType, Feel } from './model'
import { conditionOn } from './unary'

/** Components of structures that become inputs of their own, all together. */
const MOST_PARTS = 2000

export interface DecidedGate {
  gate: Gate
  decision: DmnDecision
}

/** What a name in a decision's expressions stands for. */
type Meaning =
  | { kind: 'input'; input: Input; isKnown: boolean }
  /** Of a decision whose value no column holds; its expression is put in its place. */
  | { kind: 'expression'; tree: Node; type: Type; scope: Scope }
type Scope = ReadonlyMap<string, Meaning>

/** @throws SourceError at the first thing that cannot be understood */
export function gatesFromModel(model: DmnModel): DecidedGate[] {
  return new Converter(model).run()
}

class Converter {
  private readonly decisions: ReadonlyMap<string, DmnDecision>
  /** By id, what it brings into the scope of whoever requires it. */
  private readonly offered = new Map<string, Map<string, Meaning>>()
  private parts = 0

  constructor(private readonly model: DmnModel) {
    this.decisions = new Map(model.decisions.map((decision) => [decision.id, decision]))
  }

  run(): DecidedGate[] {
    const seen = new Map<string, DmnDecision>()
    for (const decision of this.model.decisions) {
      const before = seen.get(decision.name)
      if (before) throw sourceError(`There are two decisions named “${decision.name}”, the first on line ${before.at.line}. Give one of them another name.`, decision.at)
      seen.set(decision.name, decision)
    }
    const order = dependencyOrder([...this.decisions.keys()], (id) => this.decisions.get(id)!.requires.map((required) => required.id))
    if ('loop' in order) {
      const loop = order.loop.map((id) => this.decisions.get(id)!)
      throw sourceError(`These decisions need each other, in a ring: ${loop.map(({ name }) => name).join(', ')}.`, loop[0]!.at)
    }
    for (const { id, name, type, at } of this.model.inputs) this.offered.set(id, this.inputMeanings(name, type, at))
    const gates: Gate[] = []
    return order.order.map((id) => {
      const decision = this.decisions.get(id)!
      const gate = new DecisionReader(decision, this.scopeOf(decision), this.model).gate((id, meanings) => void this.offered.set(id, meanings))
      gates.push(gate)
      const lowering = lower(gate, { conditions: [], gates })
      if ('problems' in lowering) throw sourceError(`The decision “${decision.name}” cannot be made: ${gateProblemWords(lowering.problems[0]!)}`, decision.at)
      return { gate, decision }
    })
  }

  /** A structure is its components, each an input of its own. */
  private inputMeanings(name: string, type: DmnType, at: Place): Map<string, Meaning> {
    const trouble = type.parts.length === 0 && nameTrouble(name)
    if (trouble) throw sourceError(`Expressions could not refer to “${name}”: ${NAME_TROUBLES[trouble]}. Rename it.`, at)
    if (++this.parts > MOST_PARTS) throw sourceError(`The structures of this file have more than ${MOST_PARTS} components.`, { line: 1, column: 1 })
    if (type.parts.length > 0) return new Map(type.parts.flatMap((part) => [...this.inputMeanings(`${name}.${part.name}`, part.type, at)]))
    const expected = type.allowed && expectedOf(type.allowed, type.kind)
    const kind = type.kind ?? expected?.kind ?? null
    return new Map([[name, { kind: 'input', isKnown: kind !== null, input: inputOf(name, kind ?? 'text', type.isList, { kind: 'given' }, expected?.expected ?? null) }]])
  }

  private scopeOf({ name, requires }: DmnDecision): Map<string, Meaning> {
    const scope = new Map<string, Meaning>()
    for (const { id, at } of requires) {
      const offered = this.offered.get(id)
      if (!offered) throw sourceError(`“${name}” requires “${id}”, which is not in the file.`, at)
      for (const [one, meaning] of offered) scope.set(one, meaning)
    }
    return scope
  }
}

function inputOf(name: string, type: ValueKind, isSet: boolean, source: Input['source'], expected: Expected | null): Input {
  return { name, type, isSet, unit: '', source, expected, precision: { kind: 'as measured' }, blank: 'pass' }
}

class DecisionReader {
  private readonly names: Names

  constructor(private readonly decision: DmnDecision, private readonly scope: Map<string, Meaning>, private readonly model: DmnModel) {
    this.names = namesOf([...scope.keys(), TESTED])
  }

  gate(offer: (id: string, meanings: Map<string, Meaning>) => void): Gate {
    const { logic } = this.decision
    this.tellTypes()
    const gate = logic.kind === 'table' ? this.tableGate(logic, offer) : this.literalGate(logic.expression, offer)
    return gate
  }

  private literalGate(expression: Feel, offer: (id: string, meanings: Map<string, Meaning>) => void): Gate {
    const { name, variable, id } = this.decision
    const { tree, type } = this.expression(expression)
    const { kind, isList } = this.resultOf(type, this.decision.type, expression)
    const written = this.inline(tree)
    const head = this.head([{ name, type: kind, labels: [] }], [tree], null)
    const inputs = new Map(head.inputs.map((input): [string, Meaning] => [input.name, { kind: 'input', input, isKnown: true }]))
    const meaning: Meaning = isList ? { kind: 'expression', tree: written, type, scope: inputs }
      : { kind: 'input', isKnown: true, input: inputOf(variable, kind, false, { kind: 'gate', gate: name, outcome: null }, null) }
    offer(id, new Map([[variable, meaning]]))
    return { ...head, form: 'rules', hitPolicy: 'first', rules: [{ condition: '-', entries: [{ feel: printExpression(written) }], note: '' }] }
  }

  private tableGate(table: DmnTable, offer: (id: string, meanings: Map<string, Meaning>) => void): Gate {
    const { name, variable, id } = this.decision
    const subjects = table.inputs.map(({ expression }) => this.expression(expression))
    const used = subjects.map(({ tree }) => tree)
    table.inputs.forEach(({ values }, at) => this.noteValues(subjects[at]!.tree, values))
    const rules = table.rules.map(({ tests, entries, note }) => {
      const conditions = tests.flatMap((test, column) => this.condition(test, subjects[column]!.tree))
      used.push(...conditions)
      const condition = conditions.length === 0 ? '-' : printExpression(this.inline(conditions.length === 1 ? conditions[0]! : { kind: 'and', of: conditions, span: NOWHERE }))
      return { condition, entries: entries.map((entry) => this.outputEntry(entry)), note }
    })
    const otherwise = table.outputs.some((output) => output.otherwise) ? table.outputs.map((output) => (output.otherwise ? this.outputEntry(output.otherwise) : null)) : null
    const outcomes = table.outputs.map((output, at): OutcomeColumn => {
      const given = [...rules.map(({ entries }) => entries[at]!), ...(otherwise?.[at] ? [otherwise[at]] : [])]
      const { kind } = this.resultOf(given.map(({ type }) => type).reduce(commonType, 'null'), output.type.kind || table.outputs.length > 1 ? output.type : listed(this.decision.type, table.hitPolicy), { text: output.name ?? name, at: output.at })
      for (const { type, feel } of given) if (!fits(type, kind)) throw this.trouble(feel, `This is a ${typeText(type)}, where the output is a ${kind}.`)
      return { name: output.name ?? name, type: kind, labels: this.labels(output.values, kind, at === 0 ? given.map(({ tree }) => tree) : []) }
    })
    if ((table.hitPolicy === 'priority' || table.hitPolicy === 'output order') && !table.outputs.some(({ values }) => values)) {
      throw sourceError(`The hit policy of “${name}” goes by the order of the output values, and no output has any.`, table.at)
    }
    const entriesOf = (read: readonly (Read | null)[]): Entry[] => read.map((one, at) => (one ? this.entry(one, outcomes[at]!.type, used) : null))
    const gate: Gate = {
      form: 'rules', hitPolicy: table.hitPolicy,
      rules: rules.map(({ condition, entries, note }) => ({ condition, entries: entriesOf(entries), note })),
      ...this.head(outcomes, used, otherwise && entriesOf(otherwise)),
    }
    offer(id, new Map(outcomes.map((outcome) => {
      const { kind, isList } = gathered(table.hitPolicy, outcome.type)
      const called = outcomes.length === 1 ? variable : `${variable}.${outcome.name}`
      return [called, { kind: 'input', isKnown: true, input: inputOf(called, kind, isList, { kind: 'gate', gate: name, outcome: outcomes.length === 1 ? null : outcome.name }, null) }]
    })))
    return gate
  }

  private head(outcomes: OutcomeColumn[], used: readonly Node[], otherwise: Entry[] | null) {
    const inputs = new Map<string, Input>()
    for (const [name, meaning] of this.scope) if (meaning.kind === 'input') inputs.set(name, meaning.input)
    // What a list that was written out looks at comes with it.
    const visit = (name: string, scope: Scope): void => {
      const meaning = scope.get(name)
      if (meaning?.kind === 'expression') freeNames(meaning.tree).forEach((inner) => visit(inner, meaning.scope))
      else if (meaning) inputs.set(name, meaning.input)
    }
    for (const tree of used) freeNames(tree).forEach((name) => visit(name, this.scope))
    return { schema: 1 as const, name: this.decision.name, inputs: [...inputs.values()], outcomes, otherwise }
  }

  private types(): Map<string, Type> {
    return new Map([...this.scope].map(([name, meaning]): [string, Type] => {
      if (meaning.kind === 'expression') return [name, meaning.type]
      const kind = meaning.isKnown ? meaning.input.type : 'any'
      return [name, meaning.input.isSet ? { list: kind } : kind]
    }))
  }

  private trouble({ text, at }: Feel, message: string, from = 0) {
    const before = text.slice(0, from).split('\n')
    const place = before.length === 1 ? { line: at.line, column: at.column + from } : { line: at.line + before.length - 1, column: before.at(-1)!.length + 1 }
    return sourceError(`In the decision “${this.decision.name}”, “${text.length > 60 ? `${text.slice(0, 60)}…` : text}”: ${message}`, place)
  }

  private checked(feel: Feel, parsed: ReturnType<typeof parseExpression>): Read {
    const { type, problems } = 'problem' in parsed ? { type: 'any' as Type, problems: [parsed.problem] } : checkExpression(parsed.tree, this.types())
    const [first] = problems
    if (first) {
      const missing = ['unknown-name', 'unexpected'].includes(first.code) ? this.notRequired(feel.text) : null
      throw this.trouble(feel, missing ? `“${missing}” is in the file, but this decision does not require it; add an information requirement.` : problemWords(first), first.from)
    }
    return { feel, tree: ('tree' in parsed && parsed.tree) as Node, type }
  }

  /** A name of the file that the text uses, and that is not in reach. */
  private notRequired(text: string): string | null {
    const names = [...this.model.inputs.map(({ name }) => name), ...this.model.decisions.map(({ variable }) => variable)].filter((name) => !this.scope.has(name))
    const parsed = parseExpression(text, [...this.scope.keys(), ...names])
    const found = 'tree' in parsed ? freeNames(parsed.tree).find((name) => names.includes(name)) : undefined
    return found ?? null
  }

  private expression(feel: Feel): Read {
    return this.checked(feel, parseExpression(feel.text, this.names))
  }

  /** An empty cell gives nothing. */
  private outputEntry(feel: Feel): Read {
    return feel.text === '' || feel.text === '-' ? { feel, tree: { kind: 'null', span: NOWHERE }, type: 'null' } : this.expression(feel)
  }

  private condition(cell: Feel, subject: Node): Node[] {
    if (cell.text === '' || cell.text === '-') return []
    const parsed = parseUnaryTests(cell.text, this.names)
    if ('problem' in parsed) throw this.unlessRequired(cell, parsed)
    const condition = conditionOn(subject, parsed.tree)
    if (!condition) return []
    this.checked(cell, { tree: condition })
    return [condition]
  }

  private unlessRequired(cell: Feel, parsed: { problem: Parameters<typeof problemWords>[0] }) {
    const missing = this.notRequired(cell.text)
    return this.trouble(cell, missing ? `“${missing}” is in the file, but this decision does not require it; add an information requirement.` : problemWords(parsed.problem), parsed.problem.from)
  }

  /** Lists that other decisions make, written out. */
  private inline(tree: Node): Node {
    const put = new Map<string, Node>()
    for (const name of freeNames(tree)) {
      const meaning = this.scope.get(name)
      if (meaning?.kind === 'expression') put.set(name, meaning.tree)
    }
    return substitute(tree, put)
  }

  /** The kind of a result whose values come to `found` and are declared as `declared`. */
  private resultOf(found: Type, declared: DmnType, feel: Feel): { kind: ValueKind; isList: boolean } {
    const isList = typeof found === 'object' && 'list' in found
    const item = isList ? found.list : found
    const wanted = declared.kind
    if (wanted && !fits(item, wanted)) throw this.trouble(feel, `This is a ${typeText(found)}, where a ${wanted} is declared.`)
    if (wanted) return { kind: wanted, isList }
    // Nothing but null says nothing of its kind.
    const kind = item === 'null' || item === 'any' ? 'text' : item
    if (!(VALUE_KINDS as readonly Type[]).includes(kind)) throw this.trouble(feel, `The result is a ${typeText(found)}; only single values, and lists of them, are supported.`)
    return { kind: kind as ValueKind, isList }
  }

  private entry({ tree, feel }: Read, kind: ValueKind, used: Node[]): Entry {
    if (tree.kind === 'null') return null
    const literal = literalText(tree, kind)
    if (literal !== null) return { is: literal }
    used.push(tree)
    return { feel: freeNames(tree).some((name) => this.scope.get(name)?.kind === 'expression') ? printExpression(this.inline(tree)) : feel.text }
  }

  private labels(values: Feel | null, kind: ValueKind, entries: readonly Node[]): Label[] {
    const literals = values ? this.literals(values, kind) : kind === 'text' ? entries.flatMap((tree) => literalText(tree, kind) ?? []) : []
    const distinct = [...new Set(literals)]
    const colours = paletteColours('unordered', distinct.length)
    return distinct.map((value, at) => ({ value, colour: colours[at]!, mark: markFor(at), rank: null }))
  }

  private literals(values: Feel, kind: ValueKind): string[] {
    const literals = literalTests(values)?.map((test) => literalText(test, kind))
    if (!literals || literals.includes(null)) throw this.trouble(values, `Output values are supported as a list of ${kind} values, as in "high", "low".`)
    return literals as string[]
  }

  /** Values that a column of the table allows become its input's expected values, where that has none of its own. */
  private noteValues(subject: Node, values: Feel | null): void {
    const meaning = subject.kind === 'name' ? this.scope.get(subject.name) : null
    if (!values || values.text === '' || meaning?.kind !== 'input' || meaning.input.expected || meaning.input.source.kind !== 'given') return
    const { expected } = expectedOf(values, meaning.input.type)
    this.scope.set(meaning.input.name, { ...meaning, input: { ...meaning.input, expected } })
  }

  /** Inputs of no declared type get the one under which the decision makes sense: what a column declares, or the first that clashes with nothing. */
  private tellTypes(): void {
    const { logic } = this.decision
    for (const [name, meaning] of this.scope) {
      if (meaning.kind !== 'input' || meaning.isKnown) continue
      const clauses = logic.kind === 'table' ? logic.inputs : []
      const declared = clauses.find(({ expression, type }) => expression.text === name && type.kind)?.type.kind
      const allowed = clauses.find(({ expression, values }) => expression.text === name && values)?.values
      const kind = declared ?? (allowed && expectedOf(allowed, null).kind) ?? ORDER_OF_TRYING.find((kind) => this.makesSense(name, kind))
      meaning.input.type = kind ?? 'text'
      meaning.isKnown = true
    }
  }

  private makesSense(name: string, kind: ValueKind): boolean {
    const types = new Map([...this.types(), [name, kind] as const])
    const fine = (parsed: ReturnType<typeof parseExpression>) => 'problem' in parsed || checkExpression(parsed.tree, types).problems.length === 0
    const { logic } = this.decision
    const { names } = this
    if (logic.kind === 'literal') return fine(parseExpression(logic.expression.text, names))
    const columns = logic.inputs.map(({ expression }) => parseExpression(expression.text, names))
    return columns.every(fine) && logic.rules.every(({ tests, entries }) => entries.every(({ text }) => text === '' || text === '-' || fine(parseExpression(text, names))) && tests.every(({ text }, column) => {
      const subject = columns[column]!
      const parsed = text === '' ? null : parseUnaryTests(text, names)
      if (!parsed || 'problem' in subject || 'problem' in parsed) return true
      const condition = conditionOn(subject.tree, parsed.tree)
      return !condition || checkExpression(condition, types).problems.length === 0
    }))
  }
}

interface Read {
  feel: Feel
  tree: Node
  type: Type
}

const NAME_TROUBLES = { empty: 'it is empty', keyword: 'it is a word of FEEL', sign: 'it holds a sign that names cannot', 'begins-with-figure': 'it begins with a figure' }
const NOWHERE = { from: 0, to: 0 }
const ORDER_OF_TRYING: ValueKind[] = ['number', 'text', 'boolean', 'date', 'date and time', 'time', 'days and time duration', 'years and months duration']

/** The declared type of a decision whose table gathers several results says what the list is, not its items. */
function listed(type: DmnType, policy: HitPolicy): DmnType {
  return policy === 'collect count' ? { ...type, kind: null } : type
}

/** What a hit policy makes of outcomes of this kind. */
function gathered(policy: HitPolicy, kind: ValueKind): { kind: ValueKind; isList: boolean } {
  if (policy === 'collect count') return { kind: 'number', isList: false }
  return { kind, isList: ['collect', 'rule order', 'output order'].includes(policy) }
}

function literalTests({ text }: Feel): Node[] | null {
  const parsed = parseUnaryTests(text, [])
  return 'tree' in parsed && parsed.tree.kind === 'in' ? parsed.tree.tests : null
}

/** @param kind null where nothing is declared; the values tell it then */
function expectedOf(allowed: Feel, kind: ValueKind | null): { expected: Expected | null; kind: ValueKind | null } {
  if (allowed.text === '-' || allowed.text === '') return { expected: null, kind }
  const tests = literalTests(allowed)
  const unsupported = () => {
    return sourceError(`Allowed values are supported as a list of values, or as one range; “${allowed.text}” is neither.`, allowed.at)
  }
  if (!tests) throw unsupported()
  const [only] = tests
  if (tests.length === 1 && only!.kind === 'range') {
    const found = kind ?? kindOfLiteral(only!.low ?? only!.high!)
    const bound = (end: Node | null, included: boolean) => {
      if (!end) return null
      const at = found && literalText(end, found)
      if (at === null) throw unsupported()
      return { at, included }
    }
    return { kind: found, expected: { kind: 'range', low: bound(only!.low, only!.lowIncluded), high: bound(only!.high, only!.highIncluded) } }
  }
  const literals = tests.filter((test) => test.kind !== 'null')
  const found = kind ?? (literals[0] ? kindOfLiteral(literals[0]) : null)
  const values = literals.map((test) => found && literalText(test, found))
  if (values.includes(null)) throw unsupported()
  return { kind: found, expected: { kind: 'list', values: values as string[] } }
}

function kindOfLiteral(node: Node): ValueKind | null {
  const { type } = checkExpression(node, new Map())
  return (VALUE_KINDS as readonly Type[]).includes(type) ? (type as ValueKind) : null
}
