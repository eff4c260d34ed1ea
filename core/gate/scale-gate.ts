/** A scale as its author sees it: bands one above the other, each with its label and how that looks. */
import type { Entry, Gate, GridGate, Input, ScaleGate } from './document'
import { givenInput } from './given-input'
import { isLineKind } from './scale-axis'
import type { Mark } from './mark'

export interface Band {
  label: string
  /** `#rrggbb`. */
  colour: string
  mark: Mark
}

/** The bands, lowest first. Bands of one label share its look. */
export function bandsOf({ bands, outcomes }: ScaleGate): Band[] {
  const labels = new Map(outcomes[0]!.labels.map((label) => [label.value, label]))
  return bands.map(({ entries }) => {
    const label = labelOf(entries)
    const { colour, mark } = labels.get(label) ?? UNSEEN
    return { label, colour, mark }
  })
}

/** How a label looks that its gate does not list. */
export const UNSEEN = { colour: '#56625f', mark: 'disc' } as const

function labelOf([entry]: readonly Entry[]): string {
  return !entry ? '' : 'is' in entry ? entry.is : entry.feel
}

/**
 * The gate with these bands in place of its own. Where two of one label look different, the first decides.
 * @param others what each band gives beside its label
 */
export function withBands(gate: ScaleGate, bands: readonly Band[], others: readonly Entry[][]): ScaleGate {
  const [label, ...rest] = gate.outcomes
  const ranks = new Map(label!.labels.map(({ value, rank }) => [value, rank]))
  const labels = [...new Map(bands.toReversed().map((band) => [band.label, band])).values()].toReversed()
    .toSorted((a, b) => bands.findIndex((band) => band.label === a.label) - bands.findIndex((band) => band.label === b.label))
    .map(({ label, colour, mark }) => ({ value: label, colour, mark, rank: ranks.get(label) ?? null }))
  return {
    ...gate,
    bands: bands.map(({ label }, index) => ({ entries: [{ is: label }, ...others[index]!] })),
    outcomes: [{ ...label!, labels }, ...rest],
  }
}

/** The input that the cuts are on. */
export function scaleInput(gate: ScaleGate): Input {
  return gate.inputs.find(({ name }) => name === gate.on)!
}

/** Whether the cuts lie on a line: on numbers, days or lengths of time. */
export function isLineScale(gate: Gate): gate is ScaleGate {
  return gate.form === 'scale' && isLineKind(scaleInput(gate)?.type ?? 'text')
}

/** Whether the cuts of a grid's sides, where they have any, lie on lines. */
export function hasLineSides({ inputs, down, across }: GridGate): boolean {
  return [down, across].every((side) => side.kind === 'list' || isLineKind(inputs.find(({ name }) => name === side.on)?.type ?? 'text'))
}

/** The place of the band that owns the value of cut `index`. */
export function ownerOf(gate: ScaleGate, index: number): number {
  return gate.cuts[index]!.owner === 'above' ? index + 1 : index
}

/** A number that a table gives. */
export function givenNumber(name: string, unit: string): Input {
  return givenInput(name, 'number', unit)
}

/** A scale on one number of a table, with a label for each band and nothing beside it. */
export function plainScale(name: string, input: Input, cuts: ScaleGate['cuts'], bands: readonly Band[]): ScaleGate {
  const bare: ScaleGate = {
    schema: 1, form: 'scale', name, inputs: [input], on: input.name, cuts, bands: [], floor: null, ceiling: null, otherwise: null,
    outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  }
  return withBands(bare, bands, bands.map(() => []))
}
