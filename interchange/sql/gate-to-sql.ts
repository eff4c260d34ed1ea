/** A gate as SQL: one CASE expression over the columns of a record, deciding as the core does. */
import { printExpression } from '@dime-gate/core/expression/print'
import { childrenOf, freeNames, type Node, type NodeOf } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import { holds } from '@dime-gate/core/decide/facts'
import { type Condition, type Test, testsOf } from '@dime-gate/core/rule/condition'
import type { Library } from '@dime-gate/core/gate/document'
import { withoutIdleRules } from '@dime-gate/core/gate/form'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { lower } from '@dime-gate/core/rule/lower'
import type { Lowered, LoweredEntry, LoweredInput } from '@dime-gate/core/rule/rules'
import type { DateValue } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { checkWithin, GateError } from '../gate-error'
import { ask, type Question } from '../ladder/ask'
import { byPriority, decisionAtBlank, type LadderRule, type Result, soleInput, wantedOf } from '../ladder/ladder'
import { ROUNDING_FUNCTIONS } from '../rounding-functions'
import { expressionToSql, type Names, roundingTo } from './expression-to-sql'
import { ladderToSql } from './ladder-to-sql'
import { conjunction, disjunction, identifier, is, literal, negation, type Sql, SQL, sql } from './sql-text'
import { answer, isStrict, type TestSql } from './test-to-sql'

export interface SqlOptions {
  /** The columns of inputs that are not named as the input is; several for a column set. */
  columns?: ReadonlyMap<string, readonly string[]>
  /** What `today()` is; needed where the gate asks. */
  today?: DateValue | null
}

/**
 * One CASE expression (ISO/IEC 9075-2 clause 6.12) of a record's label, another outcome, its status, or the number of
 * the rule that decided it. Held, unplaced and contested records have null for a label.
 * @param gate its name; other gates of the library that it uses are written out in it
 * @param wanted the name of an outcome, `gate status` or `gate rule`; the label where none is named
 * @throws GateError naming what SQL cannot say
 */
export function gateToSql(library: Library, gate: string, wanted?: string, options: SqlOptions = {}): string {
  return new GateWriter(library, options).gate(gate, wanted).text
}

class GateWriter {
  constructor(private readonly library: Library, private readonly options: SqlOptions) {}

  gate(name: string, wanted: string | undefined): Sql {
    const gate = this.library.gates.find((one) => one.name === name)
    if (!gate) throw new GateError(`There is no gate “${name}”.`)
    const lowering = lower(withoutIdleRules(gate), this.library)
    if ('problems' in lowering) throw new GateError(`The gate “${name}” cannot decide yet: ${gateProblemWords(lowering.problems[0]!)}`)
    return new LoweredWriter(lowering.lowered, this.options, (of, outcome) => {
      const written = this.gate(of, outcome ?? undefined)
      checkWithin(of, written.text)
      return written
    }).write(wanted)
  }
}

class LoweredWriter {
  private readonly values = new Map<string, Sql | Sql[]>()
  private readonly names: Names

  constructor(private readonly gate: Lowered, private readonly options: SqlOptions, private readonly other: (gate: string, outcome: string | null) => Sql) {
    const types = new Map([...gate.inputs.values()].map(({ name, type, isSet }): [string, Type] => [name, isSet ? { list: type } : type]))
    this.names = { value: (name) => this.value(name), types, today: options.today ?? null, extreme: (name) => this.extreme(name) }
  }

  /** What stands for an input; nobody is troubled by those that nothing looks at. */
  private value(name: string): Sql | Sql[] {
    const value = this.values.get(name) ?? this.input(this.gate.inputs.get(name)!)
    this.values.set(name, value)
    return value
  }

  private isBlank(name: string): Sql {
    return is(this.value(name) as Sql, 'NULL')
  }

  private input(input: LoweredInput): Sql | Sql[] {
    const { name, source, figure, isSet, precision } = input
    const rounded = (of: Sql) => (precision.kind === 'as measured' ? of : roundingTo(ROUNDING_FUNCTIONS[precision.kind], of, precision.places))
    if (figure) return rounded(this.expression(figure, [name], 'A figure'))
    if (source.kind === 'gate') return rounded(this.other(source.gate, source.outcome))
    const columns = (this.options.columns?.get(name) ?? [name]).map((column) => rounded(sql(identifier(column))))
    if (!isSet && columns.length > 1) throw new GateError(`“${name}” takes one column, not ${columns.length}.`)
    return isSet ? columns : columns[0]!
  }

  /** A greatest or least value of which something is known although a part of it is blank. */
  private extreme(name: string): NodeOf<'call'> | null {
    const input = this.gate.inputs.get(name)
    const figure = input?.figure
    if (!input || !holds(input) || figure?.kind !== 'call' || (figure.name !== 'max' && figure.name !== 'min')) return null
    // Beside a blank that passes nothing comes of it, whatever the others are.
    if (!freeNames(figure).every((part) => holds(this.gate.inputs.get(part)!))) return null
    if (input.precision.kind !== 'as measured') throw new GateError(`A greatest or least value that is rounded cannot be written in SQL: ${name}`)
    return figure
  }

  /**
   * An expression whose blanks hold is null where they leave it open; one whose blanks pass is what FEEL makes of them.
   * @param by the inputs whose blanks are asked about
   */
  private expression(tree: Node, by: readonly string[], what: string): Sql {
    const isHeld = by.some((name) => holds(this.gate.inputs.get(name)!))
    const passes = freeNames(tree).some((name) => !holds(this.gate.inputs.get(name)!))
    if (isHeld && passes && (!isStrict(tree) || hasExtreme(tree))) throw new GateError(`${what} that chooses, or takes the greatest, of inputs some of which hold when blank and others pass, cannot be written in SQL: ${printExpression(tree)}`)
    return expressionToSql(tree, this.names, !isHeld)
  }

  /** Blanks are weighed test by test: of tests on one blank that are true together, or never, only those of a sole input are known. */
  write(wanted: string | undefined): Sql {
    const { gate } = this
    const tests = new Map<string, TestSql>()
    const test = (one: Test): TestSql => {
      const known = tests.get(one.text) ?? this.test(one)
      tests.set(one.text, known)
      return known
    }
    const asked = (condition: Condition, question: Question) => ask(SQL, condition, question, (one, about) => answer(test(one), about))
    const rules = gate.rules.map(({ condition, entries }, place): LadderRule<Sql> => ({
      certain: asked(condition, 'certain'), possible: asked(condition, 'possible'),
      canBeOpen: testsOf(condition).some((one) => test(one).open !== 'never'), ...this.result(entries), place,
    }))
    const sole = soleInput(gate)
    const decision = sole === null ? null : decisionAtBlank(gate, this.options.today ?? null)
    return ladderToSql({
      rules: gate.hitPolicy === 'priority' ? byPriority(rules, gate) : rules, otherwise: gate.otherwise && this.result(gate.otherwise),
      hitPolicy: gate.hitPolicy, onlyBlank: sole !== null && decision ? { isBlank: this.isBlank(sole), decision } : null,
    }, wantedOf(gate, wanted))
  }

  private result(entries: readonly LoweredEntry[]): Result<Sql> {
    const opens = entries.flatMap((entry) => ('tree' in entry ? [this.openEntry(entry.tree)] : []))
    return {
      outcomes: entries.map((entry) => ('tree' in entry ? this.expression(entry.tree, freeNames(entry.tree), 'A result') : literal(entry.value))),
      same: entries.every((entry) => 'value' in entry) ? JSON.stringify(entries.map((entry) => ('value' in entry && entry.value !== null ? textOfValue(entry.value) : null))) : null,
      open: disjunction(opens),
    }
  }

  /** Where a blank that holds leaves a computed result open: what comes to nothing by itself is a result, of nothing. */
  private openEntry(tree: Node): Sql {
    const holding = freeNames(tree).filter((name) => holds(this.gate.inputs.get(name)!) && !this.gate.inputs.get(name)!.isSet)
    if (holding.length === 0) return sql('FALSE')
    const blank = disjunction(holding.map((name) => this.isBlank(name)))
    if (isStrict(tree)) return blank
    if (canFallShort(tree)) throw new GateError(`A result that chooses, together with a division, cannot be written in SQL: ${printExpression(tree)}`)
    return conjunction([blank, is(this.expression(tree, holding, 'A result'), 'NULL')])
  }

  private test({ tree, inputs }: Test): TestSql {
    const holding = inputs.filter((input) => holds(this.gate.inputs.get(input)!))
    const single = (names: readonly string[]) => names.filter((input) => !this.gate.inputs.get(input)!.isSet).map((input) => this.isBlank(input))
    if (holding.length === 0) return { value: expressionToSql(tree, this.names, true), open: 'never' }
    const value = this.expression(tree, inputs, 'A test')
    if (holding.length === inputs.length) return { value, open: 'where null' }
    // Some of its inputs hold and others pass: open where one that holds is blank, or nothing came of values that are all there.
    const passing = single(inputs.filter((input) => !holding.includes(input)))
    return { value: expressionToSql(tree, this.names, true), open: disjunction([...single(holding), conjunction([...passing.map(negation), is(value, 'NULL')])]) }
  }
}

/** Whether a greatest or least value is taken, of which something is known although a part is blank. */
function hasExtreme(tree: Node): boolean {
  return (tree.kind === 'call' && (tree.name === 'max' || tree.name === 'min')) || childrenOf(tree).some(hasExtreme)
}

/** Whether something in it can come to nothing although all values are there. */
function canFallShort(tree: Node): boolean {
  const isRisky = (tree.kind === 'arithmetic' && tree.operator === '/') || (tree.kind === 'call' && ['modulo', 'mean', 'min', 'max', 'sum'].includes(tree.name))
  return isRisky || childrenOf(tree).some(canFallShort)
}
