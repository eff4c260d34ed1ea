import type { GridGate, GridSide, RulesGate } from '../gate/document'
import { grouped } from '../value/grouped'
import { textOfValue } from '../value/value-text'
import type { Value } from '../value/value'
import { headOf } from './as-rules'
import { anotherValue, ascending, type AskedInput, stretchParts } from './asked'
import type { FormChange, FormRefusal } from './form-change'
import { provenChange, readRules, samplesOf } from './read-rules'
import { NONE } from '../rule/rules'
import { stretchesOf } from './stretches'

/** Rules that ask nothing but where two inputs lie, as the grid that they make: the one that is asked first stands down. */
export function gridFromRules(gate: RulesGate): FormChange<GridGate> {
  const read = readRules(gate, 2)
  if ('refusal' in read) return read
  const [down, across] = read.asked
  if (!across) return { refusal: { kind: 'inputs', most: 2, found: [down!.input.name] } }
  const valueless = read.asked.find(({ values }) => values.length === 0)
  if (valueless) return { refusal: { kind: 'nothing' } }
  const text = read.asked.find(({ hasStretches, input }) => hasStretches && (input.type === 'text' || input.type === 'boolean'))
  if (text) return { refusal: { kind: 'values', input: text.input.name } }
  const [rows, columns] = [placesOf(down!), placesOf(across)]
  const answers = read.probe.all(rows.flatMap((row) => columns.map((column) => new Map([[down!.input.name, row.value], [across.input.name, column.value]]))))
  // What is left over is given by otherwise, and by no cell.
  const given = rows.map((_, row) => columns.map((__, column) => {
    const { rule, entries } = answers[row * columns.length + column]!
    return rule === NONE || entries === null ? null : { rule, entries }
  }))
  // Lines that different rules are about stay apart, where they can, though they give the same.
  const found = [true, false].map((isApart): GridGate | { refusal: FormRefusal } => {
    const marked = (line: readonly (typeof given)[number][number][]) => (line.every((one) => one === null) ? null : JSON.stringify(line.map((one) => one && (isApart ? one.rule : one.entries))))
    const [left, top] = [sideOf(down!, rows, given.map(marked)), sideOf(across, columns, columns.map((_, at) => marked(given.map((row) => row[at]!))))]
    if ('refusal' in left) return left
    if ('refusal' in top) return top
    const cells = left.firsts.map((row) => top.firsts.map((column) => given[row]![column]?.entries ?? null))
    return { ...headOf(read.gate), form: 'grid', down: left.side, across: top.side, cells }
  })
  const grids = found.flatMap((one) => ('refusal' in one ? [] : one))
  if (grids.length === 0) return found.find((one) => 'refusal' in one)!
  const samples = samplesOf([{ name: down!.input.name, values: rows.map(({ value }) => value) }, { name: across.input.name, values: columns.map(({ value }) => value) }])
  return provenChange(read, samples, grids)
}

interface Place {
  value: Value
  stop: number
  isOn: boolean
}

/** @returns for a list each value, and one that is none of them last */
function placesOf(asked: AskedInput): Place[] {
  if (asked.hasStretches) return stretchParts(ascending(asked.values))
  const other = anotherValue(asked)
  return [...asked.values, ...(other === null ? [] : [other])].map((value, stop) => ({ value, stop, isOn: true }))
}

/** @property firsts for each line one of its places */
function sideOf(asked: AskedInput, places: readonly Place[], marks: readonly (string | null)[]): { side: GridSide; firsts: number[] } | { refusal: FormRefusal } {
  const { input, values, folds } = asked
  if (asked.hasStretches) {
    const stretches = stretchesOf(places, marks, ascending(values), input.name)
    if ('refusal' in stretches) return stretches
    const { groups, ...ends } = stretches
    return groups.length === 0 ? { refusal: { kind: 'nothing' } } : { side: { kind: 'scale', on: input.name, ...ends }, firsts: groups.map(([first]) => first!) }
  }
  if (places.length > values.length && marks.at(-1) !== null) return { refusal: { kind: 'rest', input: input.name } }
  const byMark = grouped([...values.keys()].filter((at) => marks[at] !== null), (at) => marks[at]!)
  const lines = [...byMark.values()]
  return { side: { kind: 'list', on: input.name, folds, lines: lines.map((line) => line.map((at) => textOfValue(values[at]!))) }, firsts: lines.map(([first]) => first!) }
}
