import { DECAY_BAND } from './testing/a-scale'
import { scaleGateSchema } from './gate'

const label = DECAY_BAND.outcomes[0]!
const isGate = (change: object) => scaleGateSchema.safeParse({ ...DECAY_BAND, ...change }).success

test('a scale is what its document says', () => expect(scaleGateSchema.parse(DECAY_BAND)).toEqual(DECAY_BAND))

test.each([
  ['a name of nothing', { name: '  ' }],
  ['a cut that is no number', { cuts: [{ at: 'twelve', owner: 'above' }, DECAY_BAND.cuts[1]] }],
  ['a cut out of reach', { cuts: [{ at: '1e9999', owner: 'above' }, DECAY_BAND.cuts[1]] }],
  ['a cut that nobody owns', { cuts: [{ at: '12' }, DECAY_BAND.cuts[1]] }],
  ['one band too few', { bands: DECAY_BAND.bands.slice(1) }],
  ['cuts out of order', { cuts: DECAY_BAND.cuts.toReversed() }],
  ['two cuts on one value', { cuts: [DECAY_BAND.cuts[0], { at: '12.0', owner: 'below' }] }],
  ['a floor above a cut', { floor: { at: '13', included: true } }],
  ['a colour by name', { outcomes: [{ ...label, labels: [{ ...label.labels[0], colour: 'red' }] }] }],
  ['a mark that is not ours', { outcomes: [{ ...label, labels: [{ ...label.labels[0], mark: 'arrow' }] }] }],
  ['an input that nobody knows', { on: 'Lean' }],
  ['a band with a result too many', { bands: [{ entries: [{ is: 'a' }, { is: 'b' }] }, ...DECAY_BAND.bands.slice(1)] }],
  ['a document of a shape to come', { schema: 2 }],
  ['a catch-all, which the bench does not show yet', { otherwise: [{ is: 'rest' }] }],
  ['a figure, which the bench does not compute yet', { inputs: [{ ...DECAY_BAND.inputs[0], source: { kind: 'figure', feel: '1 + 1' } }] }],
  ['something more', { otherwise: 'fail' }],
  ['another form', { form: 'wheel' }],
])('%s is no scale', (_, change) => expect(isGate(change)).toBe(false))
