/** A gate's document made ready to decide: every form as ordered rules, every text as a typed tree; or all that is wrong with it. */
import { checkCondition, checkExpression } from '../expression/check'
import { type Names, namesOf, nameTrouble } from '../expression/names'
import { parseExpression } from '../expression/parse'
import { freeNames, type Node } from '../expression/tree'
import { fits, type Type } from '../expression/type'
import { valueFromText } from '../value/value-text'
import { ALWAYS, type Condition, conditionOf, NEVER, withNamed } from './condition'
import { EMPTY_LIBRARY, type Entry, type Gate, type Input, type Library, type OutcomeColumn } from '../gate/document'
import { conditionOnce, readOnce, type ReadText } from './read-once'
import { formProblems } from './form-problems'
import { formRules } from './forms'
import { type GateProblem, gateProblem } from '../gate/gate-problem'
import { isIdle } from '../gate/form'
import { dependencyOrder } from '../gate/order'
import type { Lowered, LoweredEntry, LoweredInput, LoweredRule } from './rules'

export type Lowering = { lowered: Lowered } | { problems: GateProblem[] }

/** @param library the named conditions and gates that this gate may refer to */
export function lower(gate: Gate, library: Library = EMPTY_LIBRARY): Lowering {
  const lowering = new GateReader(gate, library)
  const lowered = lowering.run()
  return lowered && lowering.problems.length === 0 ? { lowered } : { problems: lowering.problems }
}

/** For gates that are known to be right. @throws Error naming the first problem */
export function lowered(gate: Gate, library: Library = EMPTY_LIBRARY): Lowered {
  const result = lower(gate, library)
  if ('lowered' in result) return result.lowered
  throw new Error(`${gate.name}: ${JSON.stringify(result.problems[0])}`)
}

class GateReader {
  readonly problems: GateProblem[] = []
  private readonly types: ReadonlyMap<string, Type>
  private readonly inputs: ReadonlyMap<string, Input>
  private readonly inputNames: Names
  /** What a text means hangs on this: the inputs' names and types. */
  private readonly signature: string

  constructor(private readonly gate: Gate, private readonly library: Library) {
    this.inputs = new Map(gate.inputs.map((input) => [input.name, input]))
    this.types = new Map(gate.inputs.map(({ name, type, isSet }) => [name, isSet ? { list: type } : type]))
    this.inputNames = namesOf(this.types.keys())
    this.signature = JSON.stringify([...this.types])
  }

  run(): Lowered | null {
    const { gate } = this
    this.names()
    if (gate.outcomes.length === 0) this.report('no-outcome', 'outcomes')
    const inputs = this.loweredInputs()
    this.problems.push(...formProblems(gate, this.inputs))
    if (this.problems.length > 0) return null
    const named = this.namedConditions()
    if (this.problems.length > 0) return null
    const rules = gate.form === 'rules'
      ? gate.rules.map((rule, index) => this.rule(isIdle(rule) ? NEVER : this.condition(rule.condition, `rules.${index}.condition`, named), rule.entries, `rules.${index}`, isIdle(rule)))
      : formRules(gate, this.inputs).map(({ condition, entries, path, isIdle }) => this.rule(condition, entries, path, isIdle))
    const otherwise = gate.otherwise && this.entries(gate.otherwise, 'otherwise')
    const hitPolicy = gate.form === 'rules' ? gate.hitPolicy : 'unique'
    if (/^collect (sum|min|max)$/.test(hitPolicy)) {
      gate.outcomes.forEach(({ type }, at) => type !== 'number' && this.report('not-a-number', `outcomes.${at}`, [hitPolicy]))
    }
    // The parts of these forms never overlap, so the first that takes a record is the only one.
    const conditions = new Map((gate.conditions ?? []).map(({ name }) => [name, named.get(name)!]))
    return { name: gate.name, inputs, outcomes: gate.outcomes, rules, otherwise, conditions, hitPolicy: gate.form === 'rules' ? hitPolicy : 'first' }
  }

  private report(code: GateProblem['code'], path: string, found: string[] = []): void {
    this.problems.push(gateProblem(code, path, found))
  }

  private names(): void {
    const seen = new Set<string>()
    const check = (name: string, path: string) => {
      const trouble = nameTrouble(name)
      if (trouble) this.report('unusable-name', path, [name, trouble])
      if (seen.has(name)) this.report('repeated-name', path, [name])
      seen.add(name)
    }
    this.gate.inputs.forEach(({ name }, at) => check(name, `inputs.${at}.name`))
    this.gate.conditions?.forEach(({ name }, at) => check(name, `conditions.${at}.name`))
    const outcomes = new Set<string>()
    this.gate.outcomes.forEach(({ name, type, labels }, at) => {
      if (outcomes.has(name)) this.report('repeated-name', `outcomes.${at}.name`, [name])
      outcomes.add(name)
      labels.forEach(({ value }, label) => {
        if (valueFromText(value, type) === null) this.report('bad-value', `outcomes.${at}.labels.${label}`, [value, type])
        if (labels.findIndex((other) => other.value === value) < label) this.report('repeated-value', `outcomes.${at}.labels.${label}`, [value])
      })
    })
  }

  /** Figures after what they look at. */
  private loweredInputs(): Map<string, LoweredInput> {
    const lowered = new Map<string, LoweredInput>()
    this.gate.inputs.forEach((input, at) => {
      if (input.precision.kind !== 'as measured' && input.type !== 'number') this.report('nothing-to-round', `inputs.${at}.precision`, [input.name])
      const { expected, source } = input
      const values = expected?.kind === 'list' ? expected.values : expected ? [expected.low, expected.high].flatMap((bound) => (bound ? [bound.at] : [])) : []
      for (const value of values) if (valueFromText(value, input.type) === null) this.report('bad-value', `inputs.${at}.expected`, [value, input.type])
      if (source.kind === 'gate') this.usedGate(input, source, `inputs.${at}.source`)
      const figure = source.kind === 'figure' ? this.expression(source.feel, `inputs.${at}.source.feel`, this.types.get(input.name)!) : null
      lowered.set(input.name, { ...input, figure })
    })
    const order = dependencyOrder([...lowered.keys()], (name) => {
      const { figure } = lowered.get(name)!
      return figure ? freeNames(figure) : []
    })
    if ('loop' in order) {
      this.report('figure-loop', 'inputs', order.loop)
      return lowered
    }
    return new Map(order.order.map((name) => [name, lowered.get(name)!]))
  }

  private usedGate(input: Input, source: { gate: string; outcome: string | null }, path: string): void {
    const gate = this.library.gates.find(({ name }) => name === source.gate)
    if (!gate) return this.report('unknown-gate', path, [source.gate])
    const outcome = source.outcome === null ? gate.outcomes[0] : gate.outcomes.find(({ name }) => name === source.outcome)
    if (!outcome) return this.report('unknown-outcome', path, [source.gate, source.outcome ?? ''])
    if (outcome.type !== input.type) this.report('wrong-outcome-kind', path, [input.name, outcome.type])
  }

  /** The named conditions that the gate carries or its rules use, those that they use in turn put in their places. */
  private namedConditions(): Map<string, Condition> {
    const own = this.gate.conditions ?? []
    const all = new Map([...this.library.conditions, ...own].map((condition) => [condition.name, condition]))
    const names = [...this.types.keys(), ...all.keys()]
    const used = new Map<string, Node>()
    const use = (name: string): void => {
      const condition = all.get(name)
      if (!condition || used.has(name) || this.types.has(name)) return
      const tree = this.expression(condition.feel.trim() === '' ? 'false' : condition.feel, `conditions.${name}`, 'boolean', [...all.keys()])
      if (!tree) return
      used.set(name, tree)
      freeNames(tree).forEach(use)
    }
    own.forEach(({ name }) => use(name))
    if (this.gate.form === 'rules' && all.size > 0) {
      for (const { condition } of this.gate.rules) {
        const parsed = parseExpression(condition, names)
        if ('tree' in parsed) freeNames(parsed.tree).forEach(use)
      }
    }
    const order = dependencyOrder([...used.keys()], (name) => freeNames(used.get(name)!))
    if ('loop' in order) {
      this.report('condition-loop', `conditions.${order.loop[0]}`, order.loop)
      return new Map()
    }
    const named = new Map<string, Condition>()
    for (const name of order.order) named.set(name, withNamed(conditionOf(used.get(name)!), named))
    return named
  }

  private condition(text: string, path: string, named: ReadonlyMap<string, Condition>): Condition {
    if (text.trim() === '-') return ALWAYS
    const tree = this.expression(text, path, 'boolean', [...named.keys()])
    if (!tree) return ALWAYS
    return freeNames(tree).some((name) => named.has(name)) ? withNamed(conditionOf(tree), named) : conditionOnce(tree)
  }

  private expression(text: string, path: string, wanted: Type, conditions: readonly string[] = [], mayBeList = false): Node | null {
    const { tree, type, problems } = this.read(text, wanted === 'boolean', conditions)
    for (const problem of problems) this.problems.push(gateProblem('expression', path, [], problem))
    if (!tree || problems.length > 0) return null
    if (!fits(type, wanted) && !(mayBeList && fits(type, { list: wanted }))) this.report('wrong-outcome-kind', path, [text, String(type)])
    return tree
  }

  private read(text: string, isCondition: boolean, conditions: readonly string[]): ReadText {
    return readOnce([this.signature, conditions.join('\n'), isCondition, text].join('\n\n'), () => {
      const types = conditions.length === 0 ? this.types : new Map<string, Type>([...conditions.map((name): [string, Type] => [name, 'boolean']), ...this.types])
      const parsed = parseExpression(text, conditions.length === 0 ? this.inputNames : types.keys())
      if ('problem' in parsed) return { tree: null, type: 'any', problems: [parsed.problem] }
      return { tree: parsed.tree, ...(isCondition ? checkCondition(parsed.tree, types) : checkExpression(parsed.tree, types)) }
    })
  }

  private rule(condition: Condition, entries: readonly Entry[], path: string, isIdle = false): LoweredRule {
    return { condition, entries: this.entries(entries, `${path}.entries`), isIdle, path }
  }

  private entries(entries: readonly Entry[], path: string): LoweredEntry[] {
    const { outcomes } = this.gate
    if (entries.length !== outcomes.length) {
      this.report('entry-count', path, [String(entries.length), String(outcomes.length)])
      return []
    }
    return entries.map((entry, at) => this.entry(entry, outcomes[at]!, `${path}.${at}`))
  }

  private entry(entry: Entry, { type }: OutcomeColumn, path: string): LoweredEntry {
    if (!entry) return { value: null }
    if ('feel' in entry) {
      // As the policies that gather do, an expression may give a list of what the column holds.
      const tree = this.expression(entry.feel, path, type, [], true)
      return tree ? { tree } : { value: null }
    }
    const value = valueFromText(entry.is, type)
    if (value === null) this.report('bad-value', path, [entry.is, type])
    return { value }
  }
}
