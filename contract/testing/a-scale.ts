/** A small scale for tests. */
import type { ScaleGate } from '@dime-gate/core/gate/scale-gate'

const band = (label: string) => ({ label, colour: '#7fa99a', mark: 'disc' as const })

export const DECAY_BAND: ScaleGate = {
  form: 'scale', name: 'Decay band', input: { name: 'Decay', type: 'percent', unit: '%' },
  cuts: [{ at: '12', owner: 'above' }, { at: '25.5', owner: 'below' }], bands: [band('Sound'), band('Watch'), band('Weak')],
  floor: { at: '0', included: true }, ceiling: null,
}
