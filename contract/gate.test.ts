import { DECAY_BAND } from './testing/a-scale'
import { scaleGateSchema } from './gate'

const isGate = (change: object) => scaleGateSchema.safeParse({ ...DECAY_BAND, ...change }).success

test('a scale is what its document says', () => expect(scaleGateSchema.parse(DECAY_BAND)).toEqual(DECAY_BAND))

test.each([
  ['a name of nothing', { name: '  ' }],
  ['a cut that is no number', { cuts: [{ at: 'twelve', owner: 'above' }, DECAY_BAND.cuts[1]] }],
  ['a cut with an exponent', { cuts: [{ at: '1e2', owner: 'above' }, DECAY_BAND.cuts[1]] }],
  ['a cut of 35 digits', { cuts: [{ at: `1${'0'.repeat(33)}.1`, owner: 'above' }, DECAY_BAND.cuts[1]] }],
  ['a cut that nobody owns', { cuts: [{ at: '12' }, DECAY_BAND.cuts[1]] }],
  ['one band too few', { bands: DECAY_BAND.bands.slice(1) }],
  ['cuts out of order', { cuts: DECAY_BAND.cuts.toReversed() }],
  ['two cuts on one value', { cuts: [DECAY_BAND.cuts[0], { at: '12.0', owner: 'below' }] }],
  ['a floor above a cut', { floor: { at: '13', included: true } }],
  ['a colour by name', { bands: DECAY_BAND.bands.map((band) => ({ ...band, colour: 'red' })) }],
  ['a mark that is not ours', { bands: DECAY_BAND.bands.map((band) => ({ ...band, mark: 'arrow' })) }],
  ['something more', { otherwise: 'fail' }],
  ['another form', { form: 'wheel' }],
])('%s is no scale', (_, change) => expect(isGate(change)).toBe(false))
