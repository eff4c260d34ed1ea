/** The demo's gates on its street trees, as documents that the command line takes; each file is a gate or a library. */
import type { Gate, Input, Library, RulesGate, ScaleGate } from '@dime-gate/core/gate/document'
import { markFor } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { DECAY_BAND } from './decay-band'

export const look = (labels: readonly string[], palette: 'ordered' | 'good to bad') => paletteColours(palette, labels.length).map((colour, at) => ({ label: labels[at]!, colour, mark: markFor(at) }))
export const plain = { isSet: false, unit: '', expected: null, precision: { kind: 'as measured' as const }, tolerance: null, blank: 'hold' as const }

const SLENDERNESS: Input = { ...plain, name: 'Slenderness', type: 'number', source: { kind: 'figure', feel: 'Height * 100 / Trunk' }, precision: { kind: 'half up', places: 1 } }

/** Height over trunk, both in the same unit: slender stems break first. */
export const STEM_SLENDERNESS: ScaleGate = {
  ...plainScale('Stem slenderness', SLENDERNESS,
    [{ at: '50', owner: 'above' }, { at: '80', owner: 'above' }], look(['Stout', 'Slender', 'Whip'], 'ordered')),
  inputs: [{ ...givenNumber('Height', 'm'), blank: 'hold' }, { ...givenNumber('Trunk', 'cm'), blank: 'hold' }, SLENDERNESS],
}

const FELLING_LABELS = ['Fell', 'Climb and look', 'Next round']

/** What is to be done with a tree, from two other gates and what it stands by. */
export const FELLING_DECISION: RulesGate = {
  schema: 1, form: 'rules', name: 'Felling decision', hitPolicy: 'first',
  inputs: [
    { ...plain, name: 'Band', type: 'text', source: { kind: 'gate', gate: 'Decay band', outcome: null } },
    { ...plain, name: 'Stem', type: 'text', source: { kind: 'gate', gate: 'Stem slenderness', outcome: null } },
    { ...givenNumber('Lean', '°'), blank: 'hold' },
    { ...plain, name: 'Stands by', type: 'text', source: { kind: 'given' } },
  ],
  outcomes: [{ name: 'Label', type: 'text', labels: look(FELLING_LABELS.toReversed(), 'good to bad').toReversed().map(({ label, colour, mark }) => ({ value: label, colour, mark, rank: null })) }],
  rules: [
    { condition: 'Band = "Failing" and at risk', entries: [{ is: 'Fell' }], note: 'hollow, with people below' },
    { condition: 'Band in ("Weak", "Failing") and (Stem = "Whip" or Lean > 15)', entries: [{ is: 'Fell' }], note: 'weak, and too slender or leaning' },
    { condition: 'Band in ("Weak", "Failing") or Stem = "Whip" and Lean > 8', entries: [{ is: 'Climb and look' }], note: '' },
  ],
  otherwise: [{ is: 'Next round' }],
}

const STREET_TREES: Library = { conditions: [{ name: 'at risk', feel: 'not(Stands by = "verge")' }], gates: [DECAY_BAND, STEM_SLENDERNESS, FELLING_DECISION] }

export const DEMO_GATES: { file: string; document: Gate | Library }[] = [
  { file: 'decay-band.json', document: DECAY_BAND },
  { file: 'street-trees.json', document: STREET_TREES },
]

export function gateText(document: Gate | Library): string {
  return `${JSON.stringify(document, null, 2)}\n`
}
