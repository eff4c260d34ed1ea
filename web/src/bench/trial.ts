/** One record typed in, decided as any other. */
import { columnsBound, type StandingInputs } from '@dime-gate/contract/binding'
import type { Column as TableColumn, Cell as TableCell } from '@dime-gate/contract/table'
import type { Question } from '@dime-gate/contract/question'
import { gatesAsked, givenInputs } from '@dime-gate/contract/question'
import type { Why } from '@dime-gate/core/decide/why'
import type { Example, Gate, Input } from '@dime-gate/core/gate/document'
import { givenTable } from '@dime-gate/core/bulk/given-table'
import { resultMaker } from '@dime-gate/core/result/make-results'
import type { Reason } from '@dime-gate/core/result/reason'
import type { Cell } from '@dime-gate/core/table/cells'
import { Decimal, plain } from '@dime-gate/core/value/number'
import { readCell } from '@dime-gate/core/value/read-cell'
import { parseDate } from '@dime-gate/core/value/temporal'
import { isNumber, type ValueKind } from '@dime-gate/core/value/value'
import { textOfValue, valueFromText } from '@dime-gate/core/value/value-text'
import { number, typedNumber } from '../shared/format'

export interface Trial {
  why: Why
  /** What it gets; null where it gets nothing. */
  label: string | null
  reasons: Reason[]
  /** The cut nearest to a value, and how far the value lies past it, or short of it where that is less than nothing. */
  nearest: { at: string; distance: string } | null
}

/** @param typed by input; what is missing is blank. Members of a column set are parted by `;` @returns null where the gate cannot decide */
export function tryOut(question: Pick<Question, 'gate' | 'feeding'>, typed: Readonly<Record<string, string>>, asOf: string): Trial | null {
  return tryAll(question, [typed], asOf)?.(0) ?? null
}

/** The same of many records, which are decided together. @returns the trial of each, by its place */
export function tryAll(question: Pick<Question, 'gate' | 'feeding'>, typed: readonly Readonly<Record<string, string>>[], asOf: string): ((at: number) => Trial) | null {
  return tryCells(question, (input, text) => cellOf(text, input.type), typed, asOf)
}

function tryCells(question: Pick<Question, 'gate' | 'feeding'>, cell: (input: Input, text: string) => Cell, texts: readonly Readonly<Record<string, string>>[], asOf: string): ((at: number) => Trial) | null {
  const asked = gatesAsked(question)
  if ('problems' in asked) return null
  const table = givenTable(givenInputs(question), texts.length, (input, at) => {
    const text = texts[at]![input.name] ?? ''
    return input.isSet ? text.split(';').map((part) => cell(input, part.trim())) : [cell(input, text)]
  })
  const result = resultMaker(() => table, parseDate(asOf)!)(asked.gates)
  return (at) => {
    const why = result.why(at)
    const [label] = why.decision.outcomes
    return { why, label: label === undefined ? null : textOfValue(label), reasons: result.reasons(at), nearest: nearestOf(question.gate, why) }
  }
}

export interface CheckedExample {
  example: Example
  /** What it gets now; null where it gets nothing. */
  gets: string | null
  isMet: boolean
  /** The rule that decided it, or NONE. */
  rule: number
}

/** The examples kept with a gate, each with what it gets now; none where the gate cannot decide. */
export function checkExamples(question: Pick<Question, 'gate' | 'feeding'>, asOf: string): CheckedExample[] {
  const examples = question.gate.examples ?? []
  // Asked at every change of the gate: to make it ready takes a moment.
  if (examples.length === 0) return []
  const trialOf = tryCells(question, canonicalCell, examples.map(({ values }) => values), asOf)
  return examples.flatMap((example, at) => {
    const trial = trialOf?.(at)
    return trial ? [{ example, gets: trial.label, isMet: trial.label === example.label, rule: trial.why.decision.rule }] : []
  })
}

function canonicalCell({ type }: Input, text: string): Cell {
  if (text === '') return null
  return valueFromText(text, type) === null ? { unreadable: text } : text
}

/** What was typed, as an example keeps it; what cannot be read stays as it is. */
export function keptExample(question: Pick<Question, 'gate' | 'feeding'>, typed: Readonly<Record<string, string>>, label: string | null): Example {
  const text = (input: Input, part: string): string => {
    const cell = cellOf(part, input.type)
    return cell === null ? '' : typeof cell === 'string' ? cell : cell.unreadable
  }
  const values = givenInputs(question).flatMap((input): [string, string][] => {
    const whole = typed[input.name] ?? ''
    const kept = input.isSet ? whole.split(';').map((part) => text(input, part)).join(';') : text(input, whole)
    return kept === '' ? [] : [[input.name, kept]]
  })
  return { values: Object.fromEntries(values), label }
}

/** A value in canonical text, as somebody here would type it. */
export function typedText(input: Input, text: string): string {
  return text.split(input.isSet ? ';' : '\u0000').map((part) => (input.type === 'number' && part !== '' ? number(part).replace('\u2212', '-') : part)).join('; ')
}

/** What a record of the table has for each input, as somebody would type it. @param cells by the table's columns; of what could not be read what was written stands */
export function typedRecord(question: Question, columns: readonly Pick<TableColumn, 'id'>[], cells: readonly TableCell[]): Record<string, string> {
  const stands: StandingInputs = Object.assign({}, ...[...question.feeding, question].map(({ inputs }) => inputs))
  const text = (id: number) => {
    const [value, written] = cells[columns.findIndex((column) => column.id === id)] ?? [null, null]
    return value ?? written ?? ''
  }
  return typedValues(question, ({ name }) => (stands[name] ? columnsBound(stands[name]).map(text).join(';') : ''))
}

/** An example's values, as somebody would type them. */
export function typedExample(question: Pick<Question, 'gate' | 'feeding'>, { values }: Pick<Example, 'values'>): Record<string, string> {
  return typedValues(question, ({ name }) => values[name] ?? '')
}

function typedValues(question: Pick<Question, 'gate' | 'feeding'>, textOf: (input: Input) => string): Record<string, string> {
  return Object.fromEntries(givenInputs(question).map((input) => [input.name, typedText(input, textOf(input))]))
}

export interface Proposal {
  input: string
  /** In canonical text: just below, exactly, just above. */
  values: string[]
}

const STEPS: Partial<Record<ValueKind, (value: string, by: -1 | 1) => string>> = {
  number: (value, by) => plain(new Decimal(value).plus(new Decimal(10).pow(-Math.max(0, new Decimal(value).decimalPlaces() + (value.includes('.') ? 0 : 1))).times(by))),
  date: (value, by) => new Date(Date.parse(value) + by * 86_400_000).toISOString().slice(0, 10),
}

/** Values at every cut on an input that is typed, just below it and just above. @param cuts as they are counted */
export function proposals(question: Pick<Question, 'gate' | 'feeding'>, cuts: readonly { of: string; at: string }[]): Proposal[] {
  return givenInputs(question).flatMap((input) => {
    const step = STEPS[input.type]
    const own = cuts.filter(({ of }) => of === input.name)
    return input.isSet || !step ? [] : own.map(({ at }) => ({ input: input.name, values: [step(at, -1), at, step(at, 1)] }))
  })
}

/** As the reader's locale writes numbers, and otherwise as files do. */
function cellOf(text: string, kind: ValueKind): Cell {
  if (text.trim() === '') return null
  if (kind === 'number') return typedNumber(text) ?? { unreadable: text.trim() }
  if (kind !== 'text' && kind !== 'date' && kind !== 'boolean') return valueFromText(text.trim(), kind) === null ? { unreadable: text.trim() } : text.trim()
  const reading = readCell(text, { type: kind, decimalMark: 'point', dateOrder: 'day', fraction: false })
  return reading.state === 'readable' ? reading.value : { unreadable: text.trim() }
}

/** For a scale the nearest of all its cuts; for rules, of those that were walked. */
function nearestOf(gate: Gate, why: Why): Trial['nearest'] {
  const value = gate.form === 'scale' ? why.inputs.find(({ name }) => name === gate.on)!.value : null
  const all = gate.form === 'scale'
    ? (isNumber(value) ? gate.cuts.map(({ at }) => ({ at: new Decimal(at), distance: value.minus(at) })) : [])
    : why.rules.flatMap(({ tests }) => tests.flatMap(({ nearest }) => (nearest && isNumber(nearest.at) && isNumber(nearest.distance) ? [{ at: nearest.at, distance: nearest.distance }] : [])))
  const [first] = all.sort((a, b) => a.distance.abs().cmp(b.distance.abs()))
  return first && !first.distance.isZero() ? { at: plain(first.at), distance: plain(first.distance) } : null
}
