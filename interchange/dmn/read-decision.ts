/** One decision as a gate: its table, or its expression, over the names that it may use. */
import { checkExpression } from '@dime-gate/core/expression/check'
import { type Names, namesOf } from '@dime-gate/core/expression/names'
import { type Parsed, parseExpression, parseUnaryTests } from '@dime-gate/core/expression/parse'
import { printExpression } from '@dime-gate/core/expression/print'
import type { Problem } from '@dime-gate/core/expression/problem'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { substitute } from '@dime-gate/core/expression/substitute'
import { freeNames, type Node, TESTED } from '@dime-gate/core/expression/tree'
import { commonType, fits, type Type, typeText } from '@dime-gate/core/expression/type'
import type { Entry, Gate, HitPolicy, Input, Label, OutcomeColumn } from '@dime-gate/core/gate/document'
import { markFor } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { type ValueKind, VALUE_KINDS } from '@dime-gate/core/value/value'
import { literalText } from '../literal-text'
import { sourceError } from '../source-problem'
import { expectedOf, literalTests } from './expected-values'
import { inputOf, type Meaning, type Scope } from './meaning'
import type { DmnDecision, DmnModel, DmnOutput, DmnTable, DmnType, Feel } from './model'
import { conditionOn } from './unary'

export interface ReadDecision {
  gate: Gate
  /** What it brings into the scope of whoever requires it, by name. */
  offers: Map<string, Meaning>
}

/**
 * @param scope by name, what the decision requires; types that nobody declared are told here
 * @throws SourceError at the first thing that cannot be understood
 */
export function readDecision(decision: DmnDecision, scope: Map<string, Meaning>, model: DmnModel): ReadDecision {
  return new DecisionReader(decision, scope, model).read()
}

interface Read {
  feel: Feel
  tree: Node
  type: Type
}

const NOWHERE = { from: 0, to: 0 }
const ORDER_OF_TRYING: ValueKind[] = ['number', 'text', 'boolean', 'date', 'date and time', 'time', 'days and time duration', 'years and months duration']

class DecisionReader {
  private readonly names: Names

  constructor(private readonly decision: DmnDecision, private readonly scope: Map<string, Meaning>, private readonly model: DmnModel) {
    this.names = namesOf([...scope.keys(), TESTED])
  }

  read(): ReadDecision {
    const { logic } = this.decision
    this.tellTypes()
    return logic.kind === 'table' ? this.table(logic) : this.literal(logic.expression)
  }

  private literal(expression: Feel): ReadDecision {
    const { name, variable } = this.decision
    const { tree, type } = this.expression(expression)
    const { kind, isList } = this.resultOf(type, this.decision.type, expression)
    const written = this.inline(tree)
    const head = this.head([{ name, type: kind, labels: [] }], [tree], null)
    const inputs = new Map(head.inputs.map((input): [string, Meaning] => [input.name, { kind: 'input', input, isKnown: true }]))
    const meaning: Meaning = isList ? { kind: 'expression', tree: written, type, scope: inputs }
      : { kind: 'input', isKnown: true, input: inputOf(variable, kind, false, { kind: 'gate', gate: name, outcome: null }, null) }
    const gate: Gate = { ...head, form: 'rules', hitPolicy: 'first', rules: [{ condition: '-', entries: [{ feel: printExpression(written) }], note: '' }] }
    return { gate, offers: new Map([[variable, meaning]]) }
  }

  private table(table: DmnTable): ReadDecision {
    const { name } = this.decision
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
    const outcomes = table.outputs.map((output, at) => this.outcome(table, output, [...rules.map(({ entries }) => entries[at]!), ...(otherwise?.[at] ? [otherwise[at]] : [])], at === 0))
    if ((table.hitPolicy === 'priority' || table.hitPolicy === 'output order') && !table.outputs.some(({ values }) => values)) {
      throw sourceError(`The hit policy of “${name}” goes by the order of the output values, and no output has any.`, table.at)
    }
    const entriesOf = (read: readonly (Read | null)[]): Entry[] => read.map((one, at) => (one ? this.entry(one, outcomes[at]!.type, used) : null))
    const gate: Gate = {
      form: 'rules', hitPolicy: table.hitPolicy,
      rules: rules.map(({ condition, entries, note }) => ({ condition, entries: entriesOf(entries), note })),
      ...this.head(outcomes, used, otherwise && entriesOf(otherwise)),
    }
    return { gate, offers: this.offers(table.hitPolicy, outcomes) }
  }

  /** @param given all that the column gives; of the first, the label, these are told apart by looks */
  private outcome({ outputs, hitPolicy }: DmnTable, { name, type, values, at }: DmnOutput, given: readonly Read[], isLabel: boolean): OutcomeColumn {
    const called = name ?? this.decision.name
    const declared = type.kind || outputs.length > 1 ? type : listed(this.decision.type, hitPolicy)
    const { kind } = this.resultOf(given.map((one) => one.type).reduce(commonType, 'null'), declared, { text: called, at })
    const misfit = given.find((one) => !fits(one.type, kind))
    if (misfit) throw this.trouble(misfit.feel, `This is a ${typeText(misfit.type)}, where the output is a ${kind}.`)
    return { name: called, type: kind, labels: this.labels(values, kind, isLabel ? given.map(({ tree }) => tree) : []) }
  }

  /** What others may call the results by. */
  private offers(hitPolicy: HitPolicy, outcomes: readonly OutcomeColumn[]): Map<string, Meaning> {
    const { name, variable } = this.decision
    const isSingle = outcomes.length === 1
    return new Map(outcomes.map((outcome): [string, Meaning] => {
      const { kind, isList } = gathered(hitPolicy, outcome.type)
      const called = isSingle ? variable : `${variable}.${outcome.name}`
      return [called, { kind: 'input', isKnown: true, input: inputOf(called, kind, isList, { kind: 'gate', gate: name, outcome: isSingle ? null : outcome.name }, null) }]
    }))
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

  private checked(feel: Feel, parsed: Parsed): Read {
    if ('problem' in parsed) throw this.refusal(feel, parsed.problem)
    const { type, problems } = checkExpression(parsed.tree, this.types())
    if (problems[0]) throw this.refusal(feel, problems[0])
    return { feel, tree: parsed.tree, type }
  }

  private refusal(feel: Feel, problem: Problem) {
    const missing = this.notRequired(feel.text)
    return this.trouble(feel, missing ? `“${missing}” is in the file, but this decision does not require it; add an information requirement.` : problemWords(problem), problem.from)
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
    if ('problem' in parsed) throw this.refusal(cell, parsed.problem)
    const condition = conditionOn(subject, parsed.tree)
    return condition ? [this.checked(cell, { tree: condition }).tree] : []
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
    const fine = (parsed: Parsed) => 'problem' in parsed || checkExpression(parsed.tree, types).problems.length === 0
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

/** The declared type of a decision whose table gathers several results says what the list is, not its items. */
function listed(type: DmnType, policy: HitPolicy): DmnType {
  return policy === 'collect count' ? { ...type, kind: null } : type
}

/** What a hit policy makes of outcomes of this kind. */
function gathered(policy: HitPolicy, kind: ValueKind): { kind: ValueKind; isList: boolean } {
  if (policy === 'collect count') return { kind: 'number', isList: false }
  return { kind, isList: ['collect', 'rule order', 'output order'].includes(policy) }
}
