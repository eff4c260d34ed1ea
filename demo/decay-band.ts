/** The demo's first gate: how far a tree's stem has decayed, in four bands. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { markFor } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'

const COLOURS = paletteColours('good to bad', 4)
const BANDS = ['Sound', 'Watch', 'Weak', 'Failing'].map((label, index) => ({ label, colour: COLOURS[index]!, mark: markFor(index) }))

export const DECAY_BAND: ScaleGate = {
  ...plainScale('Decay band', givenNumber('Decay', '%'), ['12', '25', '40'].map((at) => ({ at, owner: 'above' })), BANDS),
  floor: { at: '0', included: true },
  ceiling: { at: '100', included: true },
}
