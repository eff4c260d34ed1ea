/** A gate as one formula of OpenFormula over the named cells of a record. */
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { printExpression } from '@dime-gate/core/expression/print'
import { childrenOf, freeNames, type Node } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import { type Condition, type Test, testsOf } from '@dime-gate/core/rule/condition'
import type { Library } from '@dime-gate/core/gate/document'
import { withoutIdleRules } from '@dime-gate/core/gate/form'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { lower } from '@dime-gate/core/rule/lower'
import type { Lowered, LoweredEntry, LoweredInput } from '@dime-gate/core/rule/rules'
import type { DateValue } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { checkWithin, GateError } from '../gate-error'
import { ask, isGenerous, isPositive, type Question } from '../ladder/ask'
import { inTurn } from '../ladder/in-turn'
import { decisionAtBlank, byPriority, type LadderRule, type Result, soleInput, tellingOf, wantedOf } from '../ladder/ladder'
import { ROUNDING_FUNCTIONS } from '../rounding-functions'
import { canFallShort, expressionToFormula, type Names, roundingTo } from './expression-to-formula'
import { call, cellNamed, type Formula, formula, literal, NO, not, OPEN_FORMULA, within, CLOSENESS, YES } from './formula-text'

/**
 * A formula (ISO/IEC 26300-4 clause 5) of a record's label, another outcome, its status or the number of its rule.
 * Each input is a cell of its name, a column set a range of its name. Where there is no label the result is empty.
 * @param wanted the name of an outcome, `gate status` or `gate rule`; the label where none is named
 * @throws GateError naming what a formula cannot say
 */
export function gateToFormula(library: Library, gate: string, wanted?: string, today: DateValue | null = null): string {
  return `=${formulaOf(library, gate, wanted, today).text}`
}

function formulaOf(library: Library, name: string, wanted: string | undefined, today: DateValue | null): Formula {
  const gate = library.gates.find((one) => one.name === name)
  if (!gate) throw new GateError(`There is no gate “${name}”.`)
  const lowering = lower(withoutIdleRules(gate), library)
  if ('problems' in lowering) throw new GateError(`The gate “${name}” cannot decide yet: ${gateProblemWords(lowering.problems[0]!)}`)
  return new LoweredWriter(lowering.lowered, today, (of, outcome) => {
    const written = formulaOf(library, of, outcome ?? undefined, today)
    checkWithin(of, written.text)
    return written
  }).write(wanted)
}

interface WrittenInput {
  value: Formula
  /** Whether it has a value in the record. */
  isKnown: Formula
}

class LoweredWriter {
  private readonly inputs = new Map<string, WrittenInput>()
  private readonly names: Names

  constructor(private readonly gate: Lowered, today: DateValue | null, private readonly other: (gate: string, outcome: string | null) => Formula) {
    const types = new Map([...gate.inputs.values()].map(({ name, type, isSet }): [string, Type] => [name, isSet ? { list: type } : type]))
    this.names = { value: (name) => this.input(name).value, isKnown: (name) => this.input(name).isKnown, types, today }
  }

  /** What stands for an input; nobody is troubled by those that nothing looks at. */
  private input(name: string): WrittenInput {
    const input = this.inputs.get(name) ?? this.written(this.gate.inputs.get(name)!)
    this.inputs.set(name, input)
    return input
  }

  private written(input: LoweredInput): WrittenInput {
    const { name, figure, source, precision, isSet } = input
    const bare = figure ? expressionToFormula(figure, this.names) : source.kind === 'gate' ? this.other(source.gate, source.outcome) : cellNamed(name)
    if (isSet && precision.kind !== 'as measured') throw new GateError(`The members of the column set “${name}” are rounded each, which cannot be written as a formula.`)
    return {
      value: precision.kind === 'as measured' ? bare : roundingTo(ROUNDING_FUNCTIONS[precision.kind], bare, precision.places)!,
      isKnown: figure ? this.isComputed(figure) : isSet ? YES : hasValue(input, bare),
    }
  }

  /** Whether all that a figure needs is there, and something comes of it. */
  private isComputed(figure: Node): Formula {
    if (asksForNull(figure)) throw new GateError(`A figure that makes something of blanks cannot be written as a formula: ${printExpression(figure)}`)
    const parts = OPEN_FORMULA.all(freeNames(figure).map((name) => this.names.isKnown(name)))
    return canFallShort(figure) ? this.whereKnown(parts, not(call('ISERROR', expressionToFormula(figure, this.names))), NO) : parts
  }

  private whereKnown(isKnown: Formula, then: Formula, otherwise: Formula): Formula {
    return OPEN_FORMULA.cases([{ when: isKnown, then }], otherwise)
  }

  write(wanted: string | undefined): Formula {
    const { gate } = this
    if (gate.hitPolicy !== 'first' && gate.hitPolicy !== 'priority') throw new GateError(`The hit policy “${gate.hitPolicy}” cannot be written as a formula; first and priority can.`)
    const sole = soleInput(gate)
    const otherwise = gate.otherwise && this.result(gate.otherwise)
    const results = gate.rules.map(({ entries }) => this.result(entries))
    // Where a blank is caught before any rule, the rules need not ask again.
    const decision = sole === null ? null : decisionAtBlank(gate, this.names.today)
    const isGuarded = decision !== null
    const asked = (condition: Condition, question: Question) => ask(OPEN_FORMULA, condition, question, (test, about) => this.answer(test, about, isGuarded))
    const rules = gate.rules.map(({ condition }, place): LadderRule<Formula> => ({
      certain: asked(condition, 'certain'), possible: asked(condition, 'possible'),
      canBeOpen: testsOf(condition).some((test) => this.holds(test)), ...results[place]!, place,
    }))
    const ladder = {
      rules: gate.hitPolicy === 'priority' ? byPriority(rules, gate) : rules, otherwise, hitPolicy: gate.hitPolicy,
      onlyBlank: sole !== null && decision ? { isBlank: not(this.names.isKnown(sole)), decision } : null,
    }
    return inTurn(OPEN_FORMULA, ladder, tellingOf(OPEN_FORMULA, ladder, wantedOf(gate, wanted)))
  }

  private result(entries: readonly LoweredEntry[]): Result<Formula> {
    return {
      outcomes: entries.map((entry) => {
        if ('value' in entry) return literal(entry.value)
        const value = expressionToFormula(entry.tree, this.names)
        const isKnown = OPEN_FORMULA.all(freeNames(entry.tree).map((name) => this.names.isKnown(name)))
        return this.whereKnown(isKnown, canFallShort(entry.tree) ? call('IFERROR', value, formula('""')) : value, formula('""'))
      }),
      open: OPEN_FORMULA.any(entries.flatMap((entry) => ('tree' in entry ? this.blanksIn(entry.tree) : []))),
      same: entries.every((entry) => 'value' in entry) ? JSON.stringify(entries.map((entry) => ('value' in entry && entry.value !== null ? textOfValue(entry.value) : null))) : null,
    }
  }

  /** Blanks that hold, and so leave a computed result open. */
  private blanksIn(tree: Node): Formula[] {
    const holding = freeNames(tree).filter((name) => this.gate.inputs.get(name)!.blank !== 'pass' && !this.gate.inputs.get(name)!.isSet)
    return holding.map((name) => not(this.names.isKnown(name)))
  }

  private holds({ inputs }: Test): boolean {
    return inputs.some((input) => this.gate.inputs.get(input)!.blank !== 'pass')
  }

  private answer(test: Test, question: Question, isGuarded: boolean): Formula {
    const { tree, inputs, asksForBlanks } = test
    const value = expressionToFormula(tree, this.names)
    const plain = isPositive(question) ? value : not(value)
    if (asksForBlanks) {
      if (inputs.length > 1 || tree.kind !== 'comparison') throw new GateError(`A test of blanks among other things cannot be written as a formula: ${test.text}`)
      return plain
    }
    if (isGuarded) return plain
    const isKnown = OPEN_FORMULA.all(inputs.map((name) => this.names.isKnown(name)))
    const open = this.holds(test) ? (isGenerous(question) ? YES : NO) : this.atBlank(test, question)
    if (this.holds(test) && inputs.some((input) => this.gate.inputs.get(input)!.blank === 'pass')) throw new GateError(`A test of inputs that hold and others that pass when blank cannot be written as a formula: ${test.text}`)
    const safe = canFallShort(tree) ? call('IFERROR', plain, open) : plain
    return this.whereKnown(isKnown, safe, open)
  }

  /** What FEEL says of a test whose input passes when blank. */
  private atBlank({ tree, inputs, text }: Test, question: Question): Formula {
    const isOfOne = inputs.length <= 1
    if (!isOfOne && /[^<>]=|!=|\bin\b|\bif\b/.test(text)) throw new GateError(`A test of several inputs that pass when blank cannot be written as a formula: ${text}`)
    const value = isOfOne ? evaluate(tree, { value: () => null, today: this.names.today ?? { kind: 'date', day: 0 } }) : null
    return value === isPositive(question) ? YES : NO
  }
}

/** A cell of another kind of value is as good as blank. */
function hasValue({ type }: LoweredInput, of: Formula): Formula {
  switch (type) {
    case 'number': case 'date':
      return call('ISNUMBER', of)
    case 'boolean':
      return call('ISLOGICAL', of)
    case 'text':
      return formula(`${within(call('LEN', of), CLOSENESS.join)} > 0`, CLOSENESS.comparison)
    default:
      throw new GateError(`A ${type} cannot be written as a formula.`)
  }
}

function asksForNull(tree: Node): boolean {
  return ['null', 'instance of', 'if', 'and', 'or'].includes(tree.kind) || childrenOf(tree).some(asksForNull)
}
