/** For tests: a scale with everything on it that other formats have no place for. */
import type { ScaleGate } from '@dime-gate/core/gate/document'

const label = (value: string, colour: string, mark: 'disc' | 'drop' | 'square' | 'kite', rank: number) => ({ value, colour, mark, rank })

export const DECAY_SCALE: ScaleGate = {
  schema: 1, form: 'scale', name: 'Decay band', on: 'Decay',
  inputs: [{
    name: 'Decay', type: 'number', isSet: false, unit: '%', source: { kind: 'given' }, precision: { kind: 'as measured' }, tolerance: null, blank: 'hold',
    expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } },
  }],
  cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'above' }, { at: '40', owner: 'below' }],
  floor: { at: '0', included: true }, ceiling: null, otherwise: null,
  outcomes: [{ name: 'Label', type: 'text', labels: [label('Sound', '#7fa99a', 'disc', 1), label('Watch', '#d3c48a', 'drop', 2), label('Weak', '#d08a45', 'square', 3), label('Failing', '#8e3424', 'kite', 4)] }],
  bands: ['Sound', 'Watch', 'Weak', 'Failing'].map((is) => ({ entries: [{ is }] })),
}
