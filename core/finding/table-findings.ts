/** What a gate and a table together give away before anything is decided for good. */
import { printExpression } from '../expression/print'
import { literalNode, nameNode } from '../rule/literal'
import { folded } from '../gate/form'
import type { Decisions } from '../bulk/decisions'
import type { Lowered } from '../rule/rules'
import { finestPlaces } from '../table/finest-places'
import { quantiles } from '../table/quantiles'
import type { DictionaryColumn } from '../table/dictionary-column'
import type { NumberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { Decimal } from '../value/number'
import { type DateValue, isNumber, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import { type Axis, spaceOf } from '../rule/axes'
import type { Finding } from './finding'

const bare = { rules: [], labels: [], where: {}, condition: '', concerns: [], isProven: true }

/** @param decisions of the gate on this table */
export function tableFindings(gate: Lowered, table: Table, decisions: Decisions, today: DateValue): Finding[] {
  const { axes } = spaceOf(gate, today)
  const byAxis = axes.flatMap((axis): Finding[] => {
    const column = axis.input && table.columns.get(axis.input.name)
    if (!column || !('kind' in column)) return []
    return column.kind === 'number' ? [...scaleMismatch(axis, column), ...finerThanCuts(axis, column)] : nearMisses(axis, column)
  })
  return [...byAxis, ...allInOne(gate, decisions)]
}

/** A column's values are sorted once, however often its cuts are changed. */
const spreads = new WeakMap<NumberColumn, ReturnType<typeof quantiles>>()

function spreadOf(column: NumberColumn): ReturnType<typeof quantiles> {
  const spread = spreads.get(column) ?? quantiles(column, [0.02, 0.5, 0.98])
  spreads.set(column, spread)
  return spread
}

function cutsOf({ regions }: Axis): Decimal[] {
  return regions.flatMap(({ isPoint, example }) => (isPoint && isNumber(example) ? [example] : []))
}

/** Cuts of 65 on values of 0.65: all values far on one side, and within the cuts once they are taken times 100, or a hundredth. */
function scaleMismatch(axis: Axis, column: NumberColumn): Finding[] {
  const cuts = cutsOf(axis)
  const [least, middle, most] = spreadOf(column)
  if (cuts.length === 0 || !least || !middle || !most) return []
  const [first, last] = [cuts[0]!, cuts.at(-1)!]
  const isAmong = (factor: number) => new Decimal(most).times(factor).gte(first) && new Decimal(least).times(factor).lte(last)
  const factor = isAmong(1) ? undefined : [100, 0.01, 1000, 0.001, 10, 0.1].find(isAmong)
  if (factor === undefined || new Decimal(middle).isZero()) return []
  return [{ ...bare, kind: 'scale mismatch', severity: 'warning', axis: axis.name, where: { [axis.name]: `× ${factor}` }, example: { [axis.name]: new Decimal(middle) }, concerns: [axis.name] }]
}

/** `12` and `13` as cuts, values such as 12.37: somebody thought of whole numbers. */
function finerThanCuts(axis: Axis, column: NumberColumn): Finding[] {
  const cuts = cutsOf(axis)
  if (cuts.length < 2 || axis.input!.precision.kind !== 'as measured') return []
  const places = Math.max(...cuts.map((cut) => cut.decimalPlaces()))
  const hasStepHole = axis.regions.some(({ low, high, isPoint }) => !isPoint && isNumber(low) && isNumber(high) && high.minus(low).eq(new Decimal(10).pow(-places)))
  if (!hasStepHole || finestPlaces(column) <= places) return []
  return [{ ...bare, kind: 'finer than cuts', severity: 'warning', axis: axis.name, where: { [axis.name]: `${finestPlaces(column)} places, cuts have ${places}` }, example: null }]
}

/** A tested value that no record has, but for its case or its spaces. */
function nearMisses(axis: Axis, column: DictionaryColumn): Finding[] {
  if (column.type !== 'text') return []
  const present = new Set(column.texts)
  return axis.regions.flatMap(({ isPoint, example }): Finding[] => {
    if (!isPoint || typeof example !== 'string' || present.has(example)) return []
    const near = column.texts.find((text) => folded(text) === folded(example))
    return near === undefined ? [] : [{ ...bare, kind: 'near-miss values', severity: 'warning', axis: axis.name, labels: [example, near], condition: printExpression({ kind: 'comparison', operator: '=', left: nameNode(axis.name), right: literalNode(near, 'text')!, span: { from: 0, to: 0 } }), example: { [axis.name]: near as Value }, concerns: [axis.name] }]
  })
}

/** A gate that tells nothing apart. */
function allInOne({ rules }: Lowered, { counts, length }: Decisions): Finding[] {
  const rule = counts.caught.indexOf(length)
  if (length < 2 || rules.length < 2 || rule < 0) return []
  const [label] = rules[rule]!.entries
  return [{ ...bare, kind: 'all in one band', severity: 'warning', axis: null, rules: [rule], labels: label && 'value' in label ? [textOfValue(label.value)] : [], example: null }]
}
