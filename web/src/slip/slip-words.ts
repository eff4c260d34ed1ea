/** One record's own result in words: what it got, what was looked at, why, and what the next label above would have needed. */
import type { Slip, SlipColumn, SlipHead } from '@dime-gate/contract/slip'
import type { Cell } from '@dime-gate/contract/table'
import type { SeenInput } from '@dime-gate/core/decide/why'
import type { Gate, Input, Label } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { NONE } from '@dime-gate/core/rule/rules'
import { nextFinder, type NextLabel, type Way } from '@dime-gate/core/slip/next-label'
import { saidSentence } from '@dime-gate/core/slip/sentence'
import { Decimal, plain } from '@dime-gate/core/value/number'
import { isList, isNumber, type Value } from '@dime-gate/core/value/value'
import { parseDate } from '@dime-gate/core/value/temporal'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { bandInterval } from '@dime-gate/core/gate/form'
import { type Trial, tryAll, typedRecord } from '../bench/trial'
import { walkTeller, type WalkStep } from '../bench/walk-words'
import { date, FIGURE_PLACES, number, roundedText } from '../shared/format'
import { intervalWords, listed, trayWords, valueWords } from '../shared/words'
import { cellWords } from '../table/cell-words'

export interface SlipWords {
  /** Who it is of, by the columns that say so. */
  who: { name: string; value: string }[]
  /** Null where it has none. */
  label: string | null
  look: Label | null
  /** What there is to say where it has no label, or one that was given by hand. */
  remarks: string[]
  outcomes: { name: string; value: string }[]
  sentence: string
  values: { name: string; value: string; unit: string }[]
  /** Rule by rule; none for a gate without rules, which says it in a line. */
  steps: WalkStep[]
  because: string
  /** Empty where there is none above, or nothing can be said of it. */
  next: string
  /** What its file is called. */
  file: string
}

/** @returns of each slip of a run its words, by its place; all of them decided together, and each told when it is asked for */
export function slipTeller(head: SlipHead, slips: readonly Slip[]): (at: number) => SlipWords {
  const { gate, feeding, inputs, columns } = head
  const trialOf = tryAll({ gate, feeding }, slips.map(({ cells }) => typedRecord({ gate, feeding, inputs }, columns, cells)), head.asOf)
  const tell = trialTeller(head)
  return (at) => {
    const slip = slips[at]!
    const trial = trialOf?.(at) ?? null
    const given = gate.outcomes.map(({ name }, outcome) => slip.byHand?.[name] ?? slip.outcomes[outcome] ?? null)
    const who = columns.flatMap((column, place) => (column.isIdentity ? [{ name: column.name, value: cellWords(slip.cells[place], column) }] : []))
    return {
      ...tell(trial, { status: slip.status, given, byHand: slip.byHand }),
      who: who.length > 0 ? who : [{ name: 'record', value: String(slip.record) }],
      sentence: given[0] === null ? '' : saidSentence(head.sentence, (name) => nameWords(name, gate, given, trial?.why.inputs ?? [], columns, slip.cells)),
      file: [gate.name, ...who.map(({ value }) => value), ...(who.length > 0 ? [] : [String(slip.record)])].join(', '),
    }
  }
}

/** @property given by outcome what it gets, in canonical text, by hand or not */
interface Got extends Pick<Slip, 'status' | 'byHand'> {
  given: (string | null)[]
}

/** Tells what there is to say of decisions of a gate, whoever they are of: of a trial, or of null where it cannot be told again. */
export function trialTeller({ gate, asOf }: Pick<SlipHead, 'gate' | 'asOf'>): (trial: Trial | null, got: Got) => Omit<SlipWords, 'who' | 'sentence' | 'file'> {
  const finder = nextFinder(gate, parseDate(asOf)!)
  const walk = gate.form === 'rules' ? walkTeller(gate) : () => []
  return (trial, got) => {
    const seen = trial?.why.inputs ?? []
    const [label = null, ...further] = got.given
    return {
      label,
      look: gate.outcomes[0]!.labels.find(({ value }) => value === label) ?? null,
      remarks: remarksOn(got, trial),
      outcomes: gate.outcomes.slice(1).flatMap(({ name }, at) => (further[at] === null ? [] : [{ name, value: valueWords(further[at]!) }])),
      values: seen.map((one) => ({ name: one.name, value: seenWords(one), unit: one.value === null ? '' : inputOf(gate, one.name).unit })),
      steps: trial ? walk(trial.why) : [],
      because: trial ? becauseWords(gate, trial) : '',
      next: trial && !got.byHand && finder ? nextWords(finder.next(trial.label, new Map(seen.map(({ name, value }) => [name, value]))), gate) : '',
    }
  }
}

/** Names that a sentence can hold, those of what it gets first. */
export function sentenceNames({ gate, columns }: Pick<SlipHead, 'gate' | 'columns'>): string[] {
  return [...new Set([...gate.outcomes.map(({ name }) => name), ...gate.inputs.map(({ name }) => name), ...columns.flatMap(({ isIdentity, name }) => (isIdentity ? [name] : []))])]
}

/** What a sentence may begin with. */
export function firstSentence({ gate }: Pick<SlipHead, 'gate'>): string {
  const [input] = gate.inputs
  return `{${gate.outcomes[0]!.name}}${input ? `, with ${input.name} {${input.name}}${input.unit ? ` ${input.unit}` : ''}` : ''}.`
}

function nameWords(name: string, gate: Gate, given: readonly (string | null)[], seen: readonly SeenInput[], columns: readonly SlipColumn[], cells: readonly Cell[]): string {
  const outcome = gate.outcomes.findIndex((one) => one.name === name)
  if (outcome >= 0) return given[outcome] === null ? 'nothing' : valueWords(given[outcome]!)
  const input = seen.find((one) => one.name === name)
  if (input) return seenWords(input)
  const column = columns.findIndex((one) => one.isIdentity && one.name === name)
  return column >= 0 ? cellWords(cells[column], columns[column]!) : `{${name}}`
}

function inputOf(gate: Gate, name: string): Input {
  return gate.inputs.find((input) => input.name === name)!
}

function seenWords({ value, unreadable }: Pick<SeenInput, 'value' | 'unreadable'>): string {
  if (value === null) return unreadable === null ? 'missing' : `“${unreadable}”, which cannot be read`
  return toldValue(value)
}

function toldValue(value: Value): string {
  if (isList(value)) return value.map(toldValue).join(', ')
  if (value === true || value === false) return value ? 'yes' : 'no'
  if (!isNumber(value)) return value !== null && typeof value === 'object' && 'kind' in value && value.kind === 'date' ? date(textOfValue(value)) : textOfValue(value)
  const text = textOfValue(value)
  const rounded = roundedText(text, FIGURE_PLACES)
  // What would round to a cut is told in whole: it did not reach it.
  return number((rounded.split('.')[1]?.length ?? 0) < FIGURE_PLACES ? text : rounded)
}

function remarksOn({ status, byHand }: Got, trial: Trial | null): string[] {
  const why = whyNone(status, trial?.why.decision.missing ?? [])
  if (!byHand) return why === null ? [] : [why]
  return why === null ? [`Given by hand. By its values alone it would be ${trial?.label || 'none'}.`] : [why, 'What stands here was given by hand.']
}

/** Why the gate gives no label; null where it gives one. */
function whyNone(status: Got['status'], missing: readonly string[]): string | null {
  switch (status) {
    case 'held':
      return `There is no label yet: ${missing.length > 0 ? `${listed(missing)} ${missing.length === 1 ? 'is' : 'are'} missing, and could change it` : 'a value that could change it is missing'}.`
    case 'unplaced':
      return 'Nothing that the gate says takes this record, so it gives no label.'
    case 'contested':
      return 'Rules that give different labels hold, so the gate gives none.'
    default:
      return null
  }
}

/** A gate without rules says it in a line. */
function becauseWords(gate: Gate, { why }: Trial): string {
  const { status, rule } = why.decision
  if (gate.form === 'rules') return status === 'otherwise' ? 'None of these holds.' : ''
  if (status !== 'labelled' || rule === NONE) return status === 'otherwise' ? 'It lies in none of the places that have a label of their own.' : ''
  const value = (name: string) => withItsUnit(gate, name, seenWords(why.inputs.find((one) => one.name === name)!))
  switch (gate.form) {
    case 'scale':
      return `${gate.on} is ${value(gate.on)}, which lies in ${withItsUnit(gate, gate.on, intervalWords(bandInterval(gate, rule)))}: ${bandsOf(gate)[rule]!.label}.`
    case 'match':
      return `${gate.on} is ${value(gate.on)}.`
    case 'grid':
      return `${gate.down.on} is ${value(gate.down.on)}, ${gate.across.on} is ${value(gate.across.on)}: ${trayWords({ kind: 'rule', rule }, gate)}.`
  }
}

/** A unit stands behind the number, and a number is the last word of most stretches. */
function withItsUnit(gate: Gate, name: string, words: string): string {
  const { unit } = inputOf(gate, name)
  if (!unit) return words
  return words.endsWith(AND_OVER) ? `${words.slice(0, -AND_OVER.length)} ${unit}${AND_OVER}` : `${words} ${unit}`
}

const AND_OVER = ' and over'

export function nextWords(next: NextLabel | null, gate: Gate): string {
  if (!next) return ''
  if (next.ways.length === 0) return `For ${next.label}, the next above, no single value would have been enough.`
  return `For ${next.label}, the next above, it would have needed ${next.ways.map((way) => wayWords(way, gate)).join(', or ')}.`
}

function wayWords(way: Way, gate: Gate): string {
  if (way.kind === 'values') return `${way.input} ${way.values.map((value) => (value === 'true' ? 'yes' : value === 'false' ? 'no' : valueWords(value))).join(' or ')}`
  return `${way.input} ${withItsUnit(gate, way.input, intervalWords(way.stretch))}${pastWords(way, inputOf(gate, way.input))}`
}

/** Told to so many places, and never as less than it takes. */
function enough(past: string): string {
  return plain(new Decimal(past).toDecimalPlaces(FIGURE_PLACES, Decimal.ROUND_UP))
}

function pastWords({ past, isRise }: Extract<Way, { kind: 'stretch' }>, { type }: Input): string {
  if (type === 'number') return past === '0' ? ` (anything ${isRise ? 'more' : 'less'})` : ` (${number(enough(past))} ${isRise ? 'more' : 'less'})`
  return type === 'date' ? ` (${number(past)} ${past === '1' ? 'day' : 'days'} ${isRise ? 'later' : 'earlier'})` : ''
}
