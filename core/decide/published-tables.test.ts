/** Classification tables that anybody can look up, as gates: what they say of values that they print, and of values beside them. */
import { findingsOf } from '../finding/findings'
import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import { decideRecord } from './decide-record'
import type { Gate } from '../gate/document'
import { lowered } from '../rule/lower'

function labelOf(gate: Gate, texts: Record<string, string | null>): string {
  const { status, outcomes } = decideRecord(lowered(gate), givenBy(gate.inputs, texts), TODAY)
  return (outcomes[0] as string | undefined) ?? status
}
const holes = (gate: Gate) => findingsOf(lowered(gate), TODAY).findings.filter(({ kind }) => kind === 'step hole' || kind === 'gap' || kind === 'edge hole').length

describe('wind force, Beaufort scale (WMO-No. 306, code table 1100), in m/s to one place', () => {
  const FORCES = ['0..0.2', '0.3..1.5', '1.6..3.3', '3.4..5.4', '5.5..7.9', '8..10.7', '10.8..13.8', '13.9..17.1', '17.2..20.7', '20.8..24.4', '24.5..28.4', '28.5..32.6']
  const rules = [...FORCES.map((range, force): [string, string] => [`Wind in [${range}]`, `force ${force}`]), ['Wind >= 32.7', 'force 12'] as [string, string]]
  const expected = { kind: 'range' as const, low: { at: '0', included: true }, high: null }
  const rounded = rulesGate([anInput('Wind', 'number', { expected, precision: { kind: 'half up', places: 1 } })], rules)
  test.each([['0.2', 'force 0'], ['0.24', 'force 0'], ['0.25', 'force 1'], ['17.15', 'force 8'], ['17.1499', 'force 7'], ['32.65', 'force 12']])('%s m/s is %s', (Wind, force) => expect(labelOf(rounded, { Wind })).toBe(force))
  test('as printed it leaves what lies between the tenths; rounding closes that', () => {
    const asMeasured = { ...rounded, inputs: [anInput('Wind', 'number', { expected })] }
    expect([holes(rounded), holes(asMeasured)]).toEqual([0, 12])
    expect(labelOf(asMeasured, { Wind: '0.25' })).toBe('unplaced')
  })
})

describe('air quality by fine particles (40 CFR part 58, appendix G, table 2), truncated to one place before it is compared', () => {
  const gate = rulesGate([anInput('Particles', 'number', { unit: 'µg/m³', precision: { kind: 'truncated', places: 1 }, expected: { kind: 'range', low: { at: '0', included: true }, high: null } })], [
    ['Particles in [0..9]', 'good'], ['Particles in [9.1..35.4]', 'moderate'], ['Particles in [35.5..55.4]', 'unhealthy for some'],
    ['Particles in [55.5..125.4]', 'unhealthy'], ['Particles in [125.5..225.4]', 'very unhealthy'], ['Particles >= 225.5', 'hazardous'],
  ])
  test.each([['9.09', 'good'], ['9.1', 'moderate'], ['35.49', 'moderate'], ['35.5', 'unhealthy for some'], ['225.4999', 'very unhealthy']])('%s is %s', (Particles, said) => expect(labelOf(gate, { Particles })).toBe(said))
  test('nothing is left out', () => expect(holes(gate)).toBe(0))
})

describe('coma by a sum of points (Teasdale and Jennett 1974; eyes 1 to 4, speech 1 to 5, movement 1 to 6)', () => {
  const inputs = [anInput('Eyes', 'number'), anInput('Speech', 'number'), anInput('Movement', 'number'), anInput('Points', 'number', { source: { kind: 'figure', feel: 'Eyes + Speech + Movement' } })]
  const gate = rulesGate(inputs, [['Points in [13..15]', 'mild'], ['Points in [9..12]', 'moderate'], ['Points in [3..8]', 'severe']])
  test.each([[4, 5, 6, 'mild'], [3, 4, 6, 'mild'], [3, 3, 6, 'moderate'], [2, 3, 4, 'moderate'], [2, 2, 4, 'severe'], [1, 1, 1, 'severe'], [4, 5, 7, 'unplaced']])('%i + %i + %i is %s', (eyes, speech, movement, said) => {
    expect(labelOf(gate, { Eyes: String(eyes), Speech: String(speech), Movement: String(movement) })).toBe(said)
  })
  test('a part that could not be tested holds the record', () => expect(labelOf(gate, { Eyes: '4', Speech: null, Movement: '6' })).toBe('held'))
})

describe('storms by sustained wind in whole knots (Saffir and Simpson; WMO RA IV operational plan)', () => {
  const pairs: [string, string][] = [['Wind >= 137', '5'], ['Wind in [113..136]', '4'], ['Wind in [96..112]', '3'], ['Wind in [83..95]', '2'], ['Wind in [64..82]', '1'], ['Wind < 64', 'below']]
  const gate = rulesGate([anInput('Wind', 'number')], pairs)
  test.each([['63', 'below'], ['64', '1'], ['95', '2'], ['96', '3'], ['136', '4'], ['137', '5']])('%s knots is %s', (Wind, said) => expect(labelOf(gate, { Wind })).toBe(said))
  test('half a knot falls between, which the findings say', () => {
    expect(labelOf(gate, { Wind: '82.5' })).toBe('unplaced')
    expect(findingsOf(lowered(gate), TODAY).findings.filter(({ kind }) => kind === 'step hole').map(({ where }) => where.Wind)).toEqual(['(82..83)', '(95..96)', '(112..113)', '(136..137)'])
  })
})

describe('a degree with a rule for those just short (classes at 70, 60, 50, 40; within two marks, half the credits in the class above)', () => {
  const inputs = [anInput('Mean', 'number', { precision: { kind: 'half up', places: 1 } }), anInput('Credits above', 'number')]
  const pairs = ([['70', 'first'], ['60', 'upper second'], ['50', 'lower second'], ['40', 'third']] as const).flatMap(([cut, label]): [string, string][] => [
    [`Mean >= ${cut}`, label], [`Mean >= ${Number(cut) - 2} and Credits above >= 60`, label],
  ])
  const gate = rulesGate(inputs, pairs, { otherwise: [{ is: 'no class' }] })
  test.each([['70', '0', 'first'], ['69.95', '0', 'first'], ['69.94', '0', 'upper second'], ['68', '60', 'first'], ['67.94', '60', 'upper second'], ['58', '59', 'lower second'], ['37.9', '120', 'no class']])('a mean of %s with %s credits above is %s', (Mean, credits, said) => {
    expect(labelOf(gate, { Mean, 'Credits above': credits })).toBe(said)
  })
  test('credits not known matter only to those just short', () => {
    expect(['72', '65', '69', '38.5'].map((Mean) => labelOf(gate, { Mean, 'Credits above': null }))).toEqual(['first', 'upper second', 'held', 'held'])
  })
})

describe('seasons of the weather services, by the month of a date', () => {
  const inputs = [anInput('Planted', 'date'), anInput('Month', 'number', { source: { kind: 'figure', feel: 'Planted.month' } })]
  const gate = rulesGate(inputs, [['Month in (12, 1, 2)', 'winter'], ['Month in [3..5]', 'spring'], ['Month in [6..8]', 'summer'], ['Month in [9..11]', 'autumn']])
  test.each([['2024-02-29', 'winter'], ['2024-03-01', 'spring'], ['2023-08-31', 'summer'], ['2023-11-30', 'autumn'], ['2023-12-01', 'winter']])('%s is %s', (Planted, said) => expect(labelOf(gate, { Planted })).toBe(said))
})
