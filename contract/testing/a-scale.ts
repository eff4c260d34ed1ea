/** A small scale for tests. */
import { band } from '@dime-gate/core/testing/a-gate'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'

export const DECAY_BAND: ScaleGate = {
  ...plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }, { at: '25.5', owner: 'below' }], [band('Sound'), band('Watch'), band('Weak')]),
  floor: { at: '0', included: true },
}
