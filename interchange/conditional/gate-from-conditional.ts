/** A nested conditional in an open language as a gate: its branches as ordered rules, or as a scale where they make one. */
import { checkExpression } from '@dime-gate/core/expression/check'
import { BUILT_IN } from '@dime-gate/core/expression/functions/built-in'
import { nameTrouble } from '@dime-gate/core/expression/names'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { printExpression } from '@dime-gate/core/expression/print'
import { problemWords } from '@dime-gate/core/expression/problem-words'
import { substitute } from '@dime-gate/core/expression/substitute'
import { childrenOf, freeNames, type Node, type Span } from '@dime-gate/core/expression/tree'
import { commonType, type Type } from '@dime-gate/core/expression/type'
import type { Entry, Gate, Input, RulesGate, ScaleGate } from '@dime-gate/core/gate/document'
import { labelGiven } from '@dime-gate/core/gate/entries'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { bandInterval } from '@dime-gate/core/gate/form'
import { lower } from '@dime-gate/core/rule/lower'
import type { Lowered } from '@dime-gate/core/rule/rules'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { markFor } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { type ValueKind, VALUE_KINDS } from '@dime-gate/core/value/value'
import { valueInside } from '@dime-gate/core/form/asked'
import { scaleInput } from '@dime-gate/core/gate/scale-gate'
import { scaleFromRules } from '@dime-gate/core/form/scale-from-rules'
import { findingsOf } from '@dime-gate/core/finding/findings'
import type { Findings } from '@dime-gate/core/finding/finding'
import type { DateValue } from '@dime-gate/core/value/value'
import { literalText } from '../literal-text'
import { readFormula } from './read-formula'
import { readSql } from './read-sql'
import { withDays } from './with-days'
import { ConditionalError, type ConditionalProblem, notUnderstood, type Term } from './term'
import { all, ToFeel } from './to-feel'

export const CONDITIONAL_LANGUAGES = ['openformula', 'sql', 'feel'] as const
export type ConditionalLanguage = (typeof CONDITIONAL_LANGUAGES)[number]

export type ReadConditional =
  | {
    gate: Gate
    findings: Findings
    /** Names that had signs which conditions cannot use, and what they go by now. */
    renamed: { from: string; to: string }[]
    /** What was read in one of several ways that it could be meant, in words. */
    doubts: string[]
    /** By rule, or band, where in the text the branch stands that it comes from. */
    branches: Span[]
    /** Where what is left over gets its label; null where nothing gives it one. */
    rest: Span | null
  }
  | { problem: ConditionalProblem }

/** More branches than anybody nests. */
const MOST_RULES = 5000

/**
 * Reads the text of a nested conditional. What a blank does stays as the language has it: in SQL and FEEL an unknown
 * condition is passed by; in a formula a blank counts as nought or as an empty text, which nobody may have meant, so
 * there it is left unsaid, and held.
 * @param today the date that counts as today, for findings of what speaks of it
 * @returns the gate and what is known of it, or what is not understood and where in the text
 */
export function readConditional(text: string, language: ConditionalLanguage, name: string, today: DateValue): ReadConditional {
  try {
    const doubts = new Set<string>()
    const { branches, otherwise } = branchesOf(text, language, doubts)
    return new GateMaker(name, language, branches, otherwise, doubts).made(today)
  } catch (error) {
    if (error instanceof ConditionalError) return { problem: error.problem }
    throw error
  }
}

interface Branch {
  condition: Node
  result: Node
  /** Where its own condition and its result stand. */
  span: Span
}

interface Branches {
  branches: Branch[]
  /** What the last branch gives, whatever the record; null where nothing is left. */
  otherwise: Node | null
}

function branchesOf(text: string, language: ConditionalLanguage, doubts: Set<string>): Branches {
  const tree = language === 'feel' ? feelTree(text) : termTree(language === 'sql' ? readSql(text) : readFormula(text, doubts))
  const branches: Branch[] = []
  const visit = (node: Node, before: Node[], from: number | null): void => {
    if (node.kind === 'if') {
      visit(node.then, [...before, node.condition], node.condition.span.from)
      return visit(node.otherwise, before, null)
    }
    if (branches.length >= MOST_RULES) throw notUnderstood(`There are more than ${MOST_RULES} branches.`, node.span)
    branches.push({ condition: all(before, node.span), result: node, span: { from: from ?? node.span.from, to: node.span.to } })
  }
  visit(tree, [], null)
  const last = branches.at(-1)!
  const isRest = last.condition.kind === 'boolean' && last.condition.value
  if (!isRest) return { branches, otherwise: null }
  return { branches: branches.slice(0, -1), otherwise: last.result.kind === 'null' ? null : last.result }
}

/** Names are told by what stands between FEEL's own words, where nobody says which there are. */
function feelTree(text: string): Node {
  const names = new Set<string>()
  for (;;) {
    const parsed = parseExpression(text, names)
    if ('tree' in parsed) return parsed.tree
    const { code, found, from, to } = parsed.problem
    const [unknown] = found
    if (code !== 'unknown-name' || !unknown || names.has(unknown) || names.size > 200) throw notUnderstood(problemWords(parsed.problem), { from, to })
    names.add(unknown)
  }
}

function termTree(term: Term): Node {
  return new ToFeel().value(term)
}

class GateMaker {
  private readonly names: string[]
  private readonly renamed = new Map<string, string>()
  private readonly types = new Map<string, Type>()

  constructor(private readonly name: string, private readonly language: ConditionalLanguage, private branches: readonly Branch[], private readonly otherwise: Node | null, private readonly doubts: Set<string>) {
    const trees = this.trees()
    for (const tree of trees) this.known(tree)
    const sets = new Set(trees.flatMap(setNames))
    this.names = [...new Set(trees.flatMap(freeNames))]
    for (const name of this.names) this.renamed.set(name, this.usable(name))
    for (const name of this.names) this.types.set(name, sets.has(name) ? { list: 'any' } : 'any')
    for (const name of this.names) this.types.set(name, this.typeOf(name, sets.has(name)))
  }

  made(today: DateValue): ReadConditional {
    if (this.language !== 'feel') this.branches = this.branches.map(({ condition, result, span }) => ({ condition: withDays(condition, this.types), result: withDays(result, this.types), span }))
    for (const tree of this.trees()) this.checked(tree)
    if (this.language === 'openformula' && this.trees().some(comparesText)) this.doubts.add('Texts are compared as they are written: “oak” is not “Oak”. A spreadsheet may take the two for the same.')
    const rules = this.rulesGate()
    const gate = asScale(rules) ?? rules
    const lowering = lower(gate)
    if ('problems' in lowering) throw notUnderstood(gateProblemWords(lowering.problems[0]!), { from: 0, to: 0 })
    const spans = this.branches.map(({ span }) => span)
    const rest = this.otherwise?.span ?? null
    const branches = gate.form === 'scale' ? bandRules(gate, rules).map((rule) => spans[rule] ?? rest ?? NOWHERE) : spans
    return { gate, branches, rest, findings: findingsOf(lowering.lowered, today), renamed: [...this.renamed].filter(([from, to]) => from !== to).map(([from, to]) => ({ from, to })), doubts: [...this.doubts] }
  }

  private trees(): Node[] {
    return [...this.branches.flatMap(({ condition, result }) => [condition, result]), ...(this.otherwise ? [this.otherwise] : [])]
  }

  /** Every function is one of FEEL's, whatever the reader made of it. */
  private known(tree: Node): void {
    if (tree.kind === 'call' && !BUILT_IN.has(tree.name)) throw notUnderstood('This is only understood where it is asked whether anything is found, as in ISNUMBER(FIND(…)).', tree.span)
    childrenOf(tree).forEach((child) => this.known(child))
  }

  /** A name that conditions can refer to. */
  private usable(name: string): string {
    if (!nameTrouble(name)) return name
    const plain = name.replace(/[^\p{L}\p{N}_' ]+/gu, ' ').replace(/ +/g, ' ').trim()
    const taken = new Set([...this.names, ...this.renamed.values()])
    let usable = nameTrouble(plain) ? `Input ${plain}`.trim() : plain
    if (nameTrouble(usable)) usable = 'Input'
    for (let number = 2, base = usable; taken.has(usable); number++) usable = `${base} ${number}`
    return usable
  }

  /** The kind under which nothing clashes; a number where several would do. */
  private typeOf(name: string, isSet: boolean): Type {
    const kinds: ValueKind[] = ['number', 'text', 'boolean', 'date', 'date and time', 'time', 'days and time duration', 'years and months duration']
    const trees = this.trees().filter((tree) => freeNames(tree).includes(name))
    const isConditionOf = new Set(this.branches.map(({ condition }) => condition))
    const fits = (kind: ValueKind) => {
      const types = new Map([...this.types, [name, isSet ? { list: kind } : kind] as const])
      return trees.every((tree) => {
        const { type, problems } = checkExpression(this.language === 'feel' ? tree : withDays(tree, types), types)
        return problems.length === 0 && (!isConditionOf.has(tree) || type === 'boolean' || type === 'any')
      })
    }
    const kind = kinds.find(fits) ?? 'number'
    return isSet ? { list: kind } : kind
  }

  private checked(tree: Node): Type {
    const { type, problems } = checkExpression(tree, this.types)
    const [first] = problems
    if (first) throw notUnderstood(problemWords(first), first)
    return type
  }

  private rulesGate(): RulesGate {
    const results = [...this.branches.map(({ result }) => result), ...(this.otherwise ? [this.otherwise] : [])]
    const kind = this.kindOf(results)
    const put = new Map([...this.renamed].map(([from, to]): [string, Node] => [from, { kind: 'name', name: to, span: NOWHERE }]))
    const entry = (result: Node): Entry => {
      if (result.kind === 'null') return null
      const literal = literalText(result, kind)
      return literal === null ? { feel: printExpression(substitute(result, put)) } : { is: literal }
    }
    const labels = [...new Set(results.flatMap((result) => literalText(result, kind) ?? []))]
    const colours = paletteColours('unordered', labels.length)
    return {
      schema: 1, form: 'rules', name: this.name, hitPolicy: 'first', inputs: this.names.map((name) => this.input(name)),
      outcomes: [{ name: 'Label', type: kind, labels: labels.map((value, at) => ({ value, colour: colours[at]!, mark: markFor(at), rank: null })) }],
      rules: this.branches.map(({ condition, result }) => ({ condition: this.text(condition, put), entries: [entry(result)], note: '' })),
      otherwise: this.otherwise && [entry(this.otherwise)],
    }
  }

  private text(condition: Node, put: ReadonlyMap<string, Node>): string {
    const type = this.checked(condition)
    if (type !== 'boolean' && type !== 'any') throw notUnderstood('This is used as a condition, and is not something true or false.', condition.span)
    return printExpression(substitute(condition, put))
  }

  private input(name: string): Input {
    const type = this.types.get(name)!
    const isSet = typeof type === 'object' && 'list' in type
    const kind = (isSet ? type.list : type) as ValueKind
    return {
      name: this.renamed.get(name)!, type: kind, isSet, unit: '', source: { kind: 'given' }, expected: null, precision: { kind: 'as measured' }, tolerance: null,
      blank: this.language === 'openformula' ? null : 'pass',
    }
  }

  private kindOf(results: readonly Node[]): ValueKind {
    const types = results.map((result) => ({ type: this.checked(result), span: result.span }))
    const type = types.reduce((common, one) => commonType(common, one.type), 'null' as Type)
    if (type === 'null') throw notUnderstood('No branch gives anything.', results[0]?.span ?? NOWHERE)
    if ((VALUE_KINDS as readonly Type[]).includes(type)) return type as ValueKind
    const [first] = types.filter((one) => one.type !== 'null')
    const odd = types.find((one) => one.type !== 'null' && one.type !== first!.type)
    throw notUnderstood('The branches give results of different kinds; a column has one.', odd?.span ?? NOWHERE)
  }
}

/** Neighbouring bands are told by a scale; a rule that never takes a record stays one, so that the findings tell of it. */
function asScale(rules: RulesGate): ScaleGate | null {
  const made = scaleFromRules(rules)
  if ('refusal' in made || made.losses.some(({ kind }) => kind === 'unreached') || made.gate.bands.length < 2) return null
  const { gate } = made
  const order = [...new Set(gate.bands.map(({ entries }) => labelGiven(entries)))]
  const [label, ...others] = gate.outcomes
  const colours = paletteColours('ordered', label!.labels.length)
  const labels = label!.labels.toSorted((a, b) => order.indexOf(a.value) - order.indexOf(b.value)).map((one, at) => ({ ...one, colour: colours[at]! }))
  return { ...gate, outcomes: [{ ...label!, labels }, ...others] }
}

/** By band, the place of the rule that gives its values what they get; NONE where otherwise does. */
function bandRules(scale: ScaleGate, rules: RulesGate): number[] {
  const { lowered: ready } = lower(rules) as { lowered: Lowered }
  return scale.bands.map((_, band) => decideRecord(ready, () => valueInside(bandInterval(scale, band), scaleInput(scale).type), ANY_DAY).rule)
}

const ANY_DAY = { kind: 'date', day: 0 } as const
const NOWHERE: Span = { from: 0, to: 0 }
const GATHERING = ['sum', 'mean', 'min', 'max', 'count', 'median']

/** Names that stand alone in a function over many values: column sets. */
function setNames(tree: Node): string[] {
  const own = tree.kind === 'call' && GATHERING.includes(tree.name) && tree.args.length === 1 && tree.args[0]!.kind === 'name' ? [tree.args[0]!.name] : []
  return [...own, ...childrenOf(tree).flatMap(setNames)]
}

function comparesText(tree: Node): boolean {
  const isText = ({ kind }: Node) => kind === 'text'
  const compares = tree.kind === 'comparison' && (isText(tree.left) || isText(tree.right))
  return compares || childrenOf(tree).some(comparesText)
}
