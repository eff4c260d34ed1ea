/** The changes that can be made to a gate of rules. Each gives a new gate. */
import type { ValueKind } from '../value/value'
import type { Entry, Input, Label, OutcomeColumn, Rule, RulesGate } from './document'
import { markFor, MARKS } from './mark'
import { isFromPalette, paletteColours, type PaletteName, PALETTE_NAMES } from './palette'

/** A gate that nobody has written anything in yet: no record gets a label from it. */
export function newRulesGate(name: string): RulesGate {
  return {
    schema: 1,
    form: 'rules',
    name,
    inputs: [],
    hitPolicy: 'first',
    rules: [],
    otherwise: null,
    outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  }
}

/** @param at its place; later rules come after it */
export function addRule(gate: RulesGate, at: number, condition: string): RulesGate {
  return { ...gate, rules: gate.rules.toSpliced(at, 0, { condition, entries: gate.outcomes.map(() => null), note: '' }) }
}

export function copyRule(gate: RulesGate, at: number): RulesGate {
  return { ...gate, rules: gate.rules.toSpliced(at + 1, 0, gate.rules[at]!) }
}

/** A label that only this rule gave goes with it. */
export function removeRule(gate: RulesGate, at: number): RulesGate {
  return withLabelsUsed({ ...gate, rules: gate.rules.toSpliced(at, 1) }, gate)
}

export function moveRule(gate: RulesGate, from: number, to: number): RulesGate {
  const place = Math.min(Math.max(0, to), gate.rules.length - 1)
  return { ...gate, rules: gate.rules.toSpliced(from, 1).toSpliced(place, 0, gate.rules[from]!) }
}

export function editRule(gate: RulesGate, at: number, change: Partial<Rule>): RulesGate {
  const changed = { ...gate.rules[at]!, ...change }
  return { ...gate, rules: gate.rules.with(at, changed) }
}

/** A rule that is switched off stays where it is and takes nothing. */
export function switchRule(gate: RulesGate, at: number): RulesGate {
  const { isOff, ...rule } = gate.rules[at]!
  return { ...gate, rules: gate.rules.with(at, isOff ? rule : { ...rule, isOff: true }) }
}

/** @param order the rules' places, as they are to follow one another */
export function reorderRules(gate: RulesGate, order: readonly number[]): RulesGate {
  return { ...gate, rules: order.map((at) => gate.rules[at]!) }
}

/**
 * What a rule gives one outcome. A label that nothing else gave is renamed rather than replaced: it keeps its look and its place.
 * @param at the rule's place, or null for otherwise
 */
export function giveEntry(gate: RulesGate, at: number | null, outcome: number, entry: Entry): RulesGate {
  const before = entriesAt(gate, at)
  const entries = before.with(outcome, entry)
  const changed = at === null ? { ...gate, otherwise: entries } : { ...gate, rules: gate.rules.with(at, { ...gate.rules[at]!, entries }) }
  return outcome === 0 ? withLabelsUsed(changed, gate) : changed
}

function entriesAt({ rules, otherwise, outcomes }: RulesGate, at: number | null): Entry[] {
  return at === null ? (otherwise ?? outcomes.map(() => null)) : rules[at]!.entries
}

/** Without otherwise, a record that no rule takes is unplaced. */
export function dropOtherwise(gate: RulesGate): RulesGate {
  return withLabelsUsed({ ...gate, otherwise: null }, gate)
}

/** One more outcome, which nothing gives yet. */
export function addOutcome(gate: RulesGate, name: string, type: ValueKind): RulesGate {
  return {
    ...gate,
    outcomes: [...gate.outcomes, { name, type, labels: [] }],
    rules: gate.rules.map((rule) => ({ ...rule, entries: [...rule.entries, null] })),
    otherwise: gate.otherwise && [...gate.otherwise, null],
  }
}

/** The first outcome is the label, and stays. */
export function removeOutcome(gate: RulesGate, at: number): RulesGate {
  return {
    ...gate,
    outcomes: gate.outcomes.toSpliced(at, 1),
    rules: gate.rules.map((rule) => ({ ...rule, entries: rule.entries.toSpliced(at, 1) })),
    otherwise: gate.otherwise && gate.otherwise.toSpliced(at, 1),
  }
}

export function editInput(gate: RulesGate, name: string, change: Partial<Input>): RulesGate {
  return { ...gate, inputs: gate.inputs.map((input) => (input.name === name ? { ...input, ...change } : input)) }
}

/** One label in place of another, wherever it is given; where the other is there already, the two become one. */
export function renameLabel(gate: RulesGate, from: string, to: string): RulesGate {
  const renamed = (entries: Entry[]) => (labelGiven(entries) === from ? entries.with(0, { is: to }) : entries)
  const [label, ...others] = gate.outcomes
  const isThere = label!.labels.some(({ value }) => value === to)
  const labels = label!.labels.flatMap((one) => (one.value !== from ? [one] : isThere ? [] : [{ ...one, value: to }]))
  return {
    ...gate,
    outcomes: [{ ...label!, labels }, ...others],
    rules: gate.rules.map((rule) => ({ ...rule, entries: renamed(rule.entries) })),
    otherwise: gate.otherwise && renamed(gate.otherwise),
  }
}

export function editLabel(gate: RulesGate, value: string, look: Partial<Pick<Label, 'colour' | 'mark' | 'rank'>>): RulesGate {
  return withLabels(
    gate,
    labelsOf(gate).map((label) => (label.value === value ? { ...label, ...look } : label)),
  )
}

/** Another order of the labels. A palette that they wear they go on wearing, and ranks go by the order where they did. */
export function moveLabel(gate: RulesGate, from: number, to: number): RulesGate {
  const labels = labelsOf(gate)
  const moved = labels.toSpliced(from, 1).toSpliced(to, 0, labels[from]!)
  const ranks = labels.map(({ rank }) => rank)
  return withLabels(
    gate,
    worn(
      moved.map((label, at) => ({ ...label, rank: ranks[at]! })),
      labels,
    ),
  )
}

export function recolourLabels(gate: RulesGate, palette: PaletteName, isReversed: boolean): RulesGate {
  const labels = labelsOf(gate)
  const colours = coloursOf({ palette, isReversed }, labels.length)
  return withLabels(
    gate,
    labels.map((label, at) => ({ ...label, colour: colours[at]! })),
  )
}

/** Labels in their order as ranks, the last one the lowest; or none of them ranked. */
export function rankLabels(gate: RulesGate, isRanked: boolean): RulesGate {
  const labels = labelsOf(gate)
  return withLabels(
    gate,
    labels.map((label, at) => ({ ...label, rank: isRanked ? labels.length - 1 - at : null })),
  )
}

export function labelsOf(gate: Pick<RulesGate, 'outcomes'>): Label[] {
  return gate.outcomes[0]!.labels
}

function withLabels(gate: RulesGate, labels: Label[]): RulesGate {
  const [label, ...others] = gate.outcomes
  return { ...gate, outcomes: [{ ...label!, labels }, ...others] }
}

/** The palette that labels wear, in their order or against it; null where their colours are of another choice. */
export function paletteWorn(labels: readonly Label[]): { palette: PaletteName; isReversed: boolean } | null {
  const colours = labels.map(({ colour }) => colour)
  const ways = PALETTE_NAMES.flatMap((palette) => [true, false].map((isReversed) => ({ palette, isReversed })))
  return ways.find(({ palette, isReversed }) => isFromPalette(palette, isReversed ? colours.toReversed() : colours)) ?? null
}

const FIRST_WORN = { palette: 'ordered', isReversed: true } as const

function coloursOf({ palette, isReversed }: { palette: PaletteName; isReversed: boolean }, count: number): string[] {
  const colours = paletteColours(palette, count)
  return isReversed ? colours.toReversed() : colours
}

/** Labels in the colours of the palette that those before wore, spread anew; colours chosen by hand are left alone. */
function worn(labels: Label[], before: readonly Label[]): Label[] {
  const palette = before.length < 2 ? FIRST_WORN : paletteWorn(before)
  if (!palette) return labels
  const colours = coloursOf(palette, labels.length)
  return labels.map((label, at) => ({ ...label, colour: colours[at]! }))
}

/** The label that entries give; null where they give none, or one that is computed. */
export function labelGiven(entries: readonly Entry[]): string | null {
  const [entry] = entries
  return entry && 'is' in entry ? entry.is : null
}

function labelsGiven({ rules, otherwise }: RulesGate): Set<string> {
  return new Set([...rules.map(({ entries }) => entries), otherwise ?? []].flatMap((entries) => labelGiven(entries) ?? []))
}

/** The list of labels after a change: a new one is added in the order of the rules, one that nothing gives any more goes; one for one, it is a new name. */
function withLabelsUsed(changed: RulesGate, before: RulesGate): RulesGate {
  if (changed.outcomes[0]!.type !== 'text') return changed
  const [had, has] = [labelsGiven(before), labelsGiven(changed)]
  const labels = labelsOf(before)
  const gone = labels.filter(({ value }) => had.has(value) && !has.has(value))
  const come = [...has].filter((value) => !labels.some((label) => label.value === value))
  if (gone.length === 0 && come.length === 0) return changed
  if (gone.length === 1 && come.length === 1)
    return withLabels(
      changed,
      labels.map((label) => (label.value === gone[0]!.value ? { ...label, value: come[0]! } : label)),
    )
  const left = labels.filter((label) => !gone.includes(label))
  const isRanked = labels.length > 1 && labels.every(({ rank }) => rank !== null)
  const all = come.reduce<Label[]>((list, value) => list.toSpliced(placeFor(value, list, changed), 0, newLabel(value, list)), left)
  const ranked = isRanked ? all.map((label, at) => ({ ...label, rank: all.length - 1 - at })) : all
  return withLabels(changed, worn(ranked, labels))
}

/** Behind the label that the rules before it give last. */
function placeFor(value: string, labels: readonly Label[], { rules, otherwise }: RulesGate): number {
  const order = [...rules.map(({ entries }) => entries), otherwise ?? []].map(labelGiven)
  const before = order.slice(0, order.indexOf(value)).flatMap((one) => labels.findIndex((label) => label.value === one) + 1)
  return Math.max(0, ...before)
}

function newLabel(value: string, labels: readonly Label[]): Label {
  const marks = new Set(labels.map(({ mark }) => mark))
  return { value, colour: '#7fa99a', mark: MARKS.find((mark) => !marks.has(mark)) ?? markFor(labels.length), rank: null }
}

/** The kind of value that an outcome holds, and what it is called. */
export function editOutcome(gate: RulesGate, at: number, change: Partial<Pick<OutcomeColumn, 'name' | 'type'>>): RulesGate {
  return { ...gate, outcomes: gate.outcomes.with(at, { ...gate.outcomes[at]!, ...change }) }
}
