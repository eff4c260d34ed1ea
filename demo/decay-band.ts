/** The demo's first gate: how far a tree's stem has decayed, in four bands. */
import { paletteColours } from '@dime-gate/core/gate/palette'
import { markFor } from '@dime-gate/core/gate/mark'
import type { ScaleGate } from '@dime-gate/core/gate/scale-gate'

const LABELS = ['Sound', 'Watch', 'Weak', 'Failing']

export const DECAY_BAND: ScaleGate = {
  form: 'scale',
  name: 'Decay band',
  input: { name: 'Decay', type: 'percent', unit: '%' },
  cuts: ['12', '25', '40'].map((at) => ({ at, owner: 'above' })),
  bands: LABELS.map((label, index) => ({ label, colour: paletteColours('good to bad', 4)[index]!, mark: markFor(index) })),
  floor: { at: '0', included: true },
  ceiling: { at: '100', included: true },
}
