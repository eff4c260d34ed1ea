/** The changes that can be made to what a gate of any form gives: its labels in their order, with their looks and ranks. */
import type { Entry, Gate, Label } from './document'
import { entriesOf, labelGiven, withEntries } from './entries'
import { markFor, MARKS } from './mark'
import { isFromPalette, paletteColours, type PaletteName, PALETTE_NAMES } from './palette'

/** One label in place of another, wherever it is given; where the other is there already, the two become one. */
export function renameLabel<Form extends Gate>(gate: Form, from: string, to: string): Form {
  const renamed = (entries: Entry[]) => (labelGiven(entries) === from ? entries.with(0, { is: to }) : entries)
  const [label, ...others] = gate.outcomes
  const isThere = label!.labels.some(({ value }) => value === to)
  const labels = label!.labels.flatMap((one) => (one.value !== from ? [one] : isThere ? [] : [{ ...one, value: to }]))
  return { ...withEntries(gate, renamed), outcomes: [{ ...label!, labels }, ...others] }
}

export function editLabel<Form extends Gate>(gate: Form, value: string, look: Partial<Pick<Label, 'colour' | 'mark' | 'rank'>>): Form {
  return withLabels(
    gate,
    labelsOf(gate).map((label) => (label.value === value ? { ...label, ...look } : label)),
  )
}

/** Another order of the labels. A palette that they wear they go on wearing, and ranks go by the order where they did. */
export function moveLabel<Form extends Gate>(gate: Form, from: number, to: number): Form {
  const labels = labelsOf(gate)
  const moved = labels.toSpliced(from, 1).toSpliced(to, 0, labels[from]!)
  const ranks = labels.map(({ rank }) => rank)
  return withLabels(
    gate,
    worn(
      moved.map((label, at) => ({ ...label, rank: ranks[at]! })),
      labels,
      null,
    ),
  )
}

export function recolourLabels<Form extends Gate>(gate: Form, palette: PaletteName, isReversed: boolean): Form {
  const labels = labelsOf(gate)
  const colours = coloursOf({ palette, isReversed }, labels.length)
  return withLabels(
    gate,
    labels.map((label, at) => ({ ...label, colour: colours[at]! })),
  )
}

/** Labels in their order as ranks, the last one the lowest; or none of them ranked. */
export function rankLabels<Form extends Gate>(gate: Form, isRanked: boolean): Form {
  const labels = labelsOf(gate)
  return withLabels(
    gate,
    labels.map((label, at) => ({ ...label, rank: isRanked ? labels.length - 1 - at : null })),
  )
}

export function labelsOf(gate: Pick<Gate, 'outcomes'>): Label[] {
  return gate.outcomes[0]!.labels
}

function withLabels<Form extends Gate>(gate: Form, labels: Label[]): Form {
  const [label, ...others] = gate.outcomes
  return { ...gate, outcomes: [{ ...label!, labels }, ...others] }
}

/** The palette that labels wear, in their order or against it; null where their colours are of another choice. */
export function paletteWorn(labels: readonly Label[]): { palette: PaletteName; isReversed: boolean } | null {
  const colours = labels.map(({ colour }) => colour)
  const ways = PALETTE_NAMES.flatMap((palette) => [true, false].map((isReversed) => ({ palette, isReversed })))
  return ways.find(({ palette, isReversed }) => isFromPalette(palette, isReversed ? colours.toReversed() : colours)) ?? null
}

/** Lists sort into kinds that have no order; the other forms rise or fall. */
const firstWorn = ({ form }: Gate) => (form === 'match' ? { palette: 'unordered', isReversed: false } as const : { palette: 'ordered', isReversed: true } as const)

function coloursOf({ palette, isReversed }: { palette: PaletteName; isReversed: boolean }, count: number): string[] {
  const colours = paletteColours(palette, count)
  return isReversed ? colours.toReversed() : colours
}

/** Labels in the colours of the palette that those before wore, spread anew; colours chosen by hand are left alone. @param first worn as long as there are not two */
function worn(labels: Label[], before: readonly Label[], first: ReturnType<typeof paletteWorn>): Label[] {
  const palette = before.length < 2 ? first : paletteWorn(before)
  if (!palette) return labels
  const colours = coloursOf(palette, labels.length)
  return labels.map((label, at) => ({ ...label, colour: colours[at]! }))
}

function labelsGiven(gate: Gate): Set<string> {
  return new Set([...entriesOf(gate), gate.otherwise ?? []].flatMap((entries) => labelGiven(entries) ?? []))
}

/** A label that nothing gives yet, at the end; in the colours that the others wear. */
export function addLabel<Form extends Gate>(gate: Form, value: string): Form {
  const labels = labelsOf(gate)
  if (labels.some((label) => label.value === value)) return gate
  const isRanked = labels.length > 1 && labels.every(({ rank }) => rank !== null)
  const all = [...labels, newLabel(value, labels)]
  return withLabels(gate, worn(isRanked ? all.map((label, at) => ({ ...label, rank: all.length - 1 - at })) : all, labels, firstWorn(gate)))
}

/** @param value of a label that nothing gives */
export function removeLabel<Form extends Gate>(gate: Form, value: string): Form {
  const labels = labelsOf(gate)
  return withLabels(gate, worn(labels.filter((label) => label.value !== value), labels, null))
}

/** The list of labels after a change: a new one is added in the order of the rules, one that nothing gives any more goes; one for one, it is a new name. */
export function withLabelsUsed<Form extends Gate>(changed: Form, before: Form): Form {
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
  return withLabels(changed, worn(ranked, labels, firstWorn(changed)))
}

/** Behind the label that the rules before it give last. */
function placeFor(value: string, labels: readonly Label[], gate: Gate): number {
  const order = [...entriesOf(gate), gate.otherwise ?? []].map(labelGiven)
  const before = order.slice(0, order.indexOf(value)).flatMap((one) => labels.findIndex((label) => label.value === one) + 1)
  return Math.max(0, ...before)
}

function newLabel(value: string, labels: readonly Label[]): Label {
  const marks = new Set(labels.map(({ mark }) => mark))
  return { value, colour: '#7fa99a', mark: MARKS.find((mark) => !marks.has(mark)) ?? markFor(labels.length), rank: null }
}
