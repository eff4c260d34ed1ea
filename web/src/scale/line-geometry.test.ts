import { band } from '@dime-gate/core/testing/a-gate'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { firstTolerance, keyStep, lineScale, middleOfBand, nudged, stagger, valueAtPixel } from './line-geometry'

const gate = plainScale('x', givenNumber('x', ''), [{ at: '20', owner: 'above' }, { at: '150', owner: 'above' }], [band('a'), band('b'), band('c')])
const spread = { from: 0, to: 100, bins: [1], below: 0, above: 0 }

test('the line shows every cut, also beyond the values', () => {
  const x = lineScale(gate, spread, 900)
  expect(x(0)).toBe(0)
  expect(x(150)).toBeLessThan(900)
  expect(x(150)).toBeGreaterThan(850)
})

test('a cut far from all values stands at the end of the line, and the values keep theirs', () => {
  const far = { ...gate, cuts: [{ at: '20', owner: 'above' as const }, { at: '12345678901234567890', owner: 'above' as const }] }
  const x = lineScale(far, spread, 900)
  expect(x.domain()).toEqual([0, 100])
  expect([x(20), x(Number(far.cuts[1]!.at)), x(-1e300)]).toEqual([180, 900, 0])
  expect(valueAtPixel(x, 450, 0)).toBe('50')
})

test('a scale that ends is drawn little further than its end, whatever lies beyond', () => {
  const ended = { ...gate, cuts: [], floor: { at: '0', included: true }, ceiling: { at: '50', included: true } }
  expect(lineScale(ended, spread, 900).domain()).toEqual([-1.5, 51.5])
})

test('a gate without values or cuts still has a line', () => {
  expect(lineScale({ ...gate, cuts: [] }, null, 100).domain()).toEqual([0, 100])
  expect(lineScale({ ...gate, cuts: [] }, { ...spread, from: 5, to: 5 }, 100).domain()).toEqual([4, 6])
})

test('a pixel stands for a value that the hand can aim at, in decimals without a tail', () => {
  const x = lineScale({ ...gate, cuts: [] }, spread, 900)
  expect(valueAtPixel(x, 225, 1)).toBe('25')
  expect(valueAtPixel(x, 301, 3)).toBe('33.5')
  expect(valueAtPixel(x, 301, 0)).toBe('33')
})

test('a key moves a cut by a round step of what is in view, never finer than the column was measured', () => {
  const stepOf = (to: number, places: number, isFine = false) => keyStep(lineScale({ ...gate, cuts: [] }, { ...spread, to }, 900), places, isFine).toString()
  expect([stepOf(100, 0), stepOf(100, 3), stepOf(100, 17), stepOf(0.9, 17), stepOf(5000, 2), stepOf(5000, 0)]).toEqual(['1', '0.1', '0.1', '0.0001', '1', '1'])
  expect([stepOf(100, 0, true), stepOf(100, 1, true), stepOf(100, 17, true)]).toEqual(['1', '0.1', '0.001'])
})

test('a nudge goes to the next whole step, exactly', () => {
  expect(nudged('0.3', -1, new Decimal('0.1'))).toBe('0.2')
  expect(nudged('25', 10, new Decimal('0.01'))).toBe('25.1')
  expect([nudged('25.13', 1, new Decimal(1)), nudged('25.13', -1, new Decimal(1)), nudged('-0.5', -1, new Decimal(1))]).toEqual(['26', '25', '-1'])
})

test('a new cut goes to the middle of the widest band, or of the chosen one', () => {
  const x = lineScale(gate, spread, 1000)
  expect(Number(middleOfBand(gate, x, 0, null))).toBeCloseTo(85, -1)
  expect(Number(middleOfBand(gate, x, 0, 0))).toBeCloseTo(10, -1)
  const narrow = { ...gate, cuts: [{ at: '20', owner: 'above' as const }, { at: '20.25', owner: 'above' as const }] }
  expect(middleOfBand(narrow, x, 2, 1)).toBe('20.1')
})

test('labels that would touch go to another row', () => {
  expect(stagger([100, 150, 300, 310, 320], 80)).toEqual([0, 1, 0, 1, 2])
})

test('a first tolerance fits how finely the values were measured', () => {
  expect([0, 1, 3].map(firstTolerance)).toEqual(['1', '0.5', '0.005'])
})
