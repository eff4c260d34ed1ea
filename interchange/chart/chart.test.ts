import fc from 'fast-check'
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lower, lowered } from '@dime-gate/core/rule/lower'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { type ChartOptions, readChart } from './read-chart'
import { readThreshold } from './read-threshold'

const read = (chart: string, options: Partial<ChartOptions> = {}) => readChart(chart, { name: 'Read', ...options })
const labels = (scale: ScaleGate | null, ...values: string[]) => values.map((value) => textOfValue(decideRecord(lowered(scale!), () => new Decimal(value), TODAY).outcomes[0] ?? null))
const codes = ({ remarks }: ReturnType<typeof readChart>) => remarks.map(({ code, row }) => [code, row])

describe('thresholds as people write them', () => {
  const interval = (low: string | null, high: string | null, lowIncluded = true, highIncluded = true) => ({ kind: 'interval', low: low && { at: low, included: lowIncluded }, high: high && { at: high, included: highIncluded } })
  test.each([
    ['50', { kind: 'number', at: '50' }], ['−5', { kind: 'number', at: '-5' }], ['12 %', { kind: 'number', at: '12' }], ['1,200', { kind: 'number', at: '1200' }],
    ['50–64', interval('50', '64')], ['50-64', interval('50', '64')], ['-5 - -1', interval('-5', '-1')], ['50 to 64 cm', interval('50', '64')], ['from 0.5 to 1', interval('0.5', '1')], ['between 3 and 4', interval('3', '4')], ['[0..12)', interval('0', '12', true, false)],
    ['65+', interval('65', null)], ['≥ 65', interval('65', null)], ['65 and over', interval('65', null)], ['at least 65 %', interval('65', null)], ['> 65', interval('65', null, false)], ['more than 65', interval('65', null, false)],
    ['< 20', interval(null, '20', true, false)], ['under 20', interval(null, '20', true, false)], ['up to 12 %', interval(null, '12')], ['<= 12', interval(null, '12')], ['12 or less', interval(null, '12')],
    ['-10 to -1', interval('-10', '-1')], ['100-90', interval('90', '100')], ['$50 - $100', interval('50', '100')], ['£12', { kind: 'number', at: '12' }],
    ['>= 5 and < 10', interval('5', '10', true, false)], ['>=5 and <10', interval('5', '10', true, false)], ['5 ≤ x < 10', interval('5', '10', true, false)], ['5 < Decay <= 10', interval('5', '10', false, true)], ['x ≥ 10', interval('10', null)], ['Stem decay < 12 %', interval(null, '12', true, false)], ['x >= 5 and x < 10', interval('5', '10', true, false)],
    ['5 to less than 10', interval('5', '10', true, false)], ['[0, 5)', interval('0', '5', true, false)], ['more than 5 up to 10', null],
    ['otherwise', { kind: 'otherwise' }],
  ])('%s', (text, threshold) => expect(readThreshold(text, 'point')?.threshold ?? null).toEqual(threshold))

  test.each(['', 'good', '50 64', '50–', 'a–b', '12 % – 3 cm', '< good', '0-10k', '5k', '$5 - £6', 'x >= 5 and y < 10', '<', 'x <'])('“%s” is none', (text) => expect(readThreshold(text, 'point')).toBeNull())
})

describe('charts', () => {
  test('lower ends in two columns, without a header, in any order', () => {
    const chart = read('Watch\t12\nFailing\t40\nSound\t0\nWeak\t25')
    expect(chart.scale).toMatchObject({ form: 'scale', on: 'Value', floor: { at: '0', included: true }, ceiling: null, cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'above' }, { at: '40', owner: 'above' }] })
    expect(labels(chart.scale, '-1', '0', '11.99', '12', '40', '400')).toEqual(['', 'Sound', 'Sound', 'Watch', 'Failing', 'Failing'])
    expect(codes(chart)).toEqual([['not in order', null]])
  })

  test('a header names the input, its unit, and the results; a column of numbers is a column of numbers', () => {
    const { scale, remarks } = read('Award,Mean (%),Points\ncrown,85,3\nclimb,70,2\nground,0,1\n')
    expect(remarks).toEqual([])
    expect(scale).toMatchObject({ on: 'Mean', inputs: [{ name: 'Mean', unit: '%' }], outcomes: [{ name: 'Award', type: 'text' }, { name: 'Points', type: 'number', labels: [] }] })
    expect(scale!.bands.map(({ entries }) => entries)).toEqual([[{ is: 'ground' }, { is: '1' }], [{ is: 'climb' }, { is: '2' }], [{ is: 'crown' }, { is: '3' }]])
  })

  test('where two columns are numbers, the one that is named is it', () => {
    expect(read('Points,Award,Seats\n4,crown,3\n0,ground,0', { input: 'Points' }).scale).toMatchObject({ on: 'Points', bands: [{ entries: [{ is: 'ground' }, { is: '0' }] }, { entries: [{ is: 'crown' }, { is: '3' }] }] })
  })

  test('ranges of whole numbers: what lies between them is told, and goes with the lower', () => {
    const chart = read('80+ | crown\n65–79 | climb\n50–64 | ground\n< 50 | come again')
    expect(codes(chart)).toEqual([['step hole', 2], ['step hole', 1]])
    expect(labels(chart.scale, '49.9', '50', '64.5', '65', '79.99', '80')).toEqual(['come again', 'ground', 'ground', 'climb', 'climb', 'crown'])
  })

  test('from and to in columns of their own', () => {
    const chart = read('From;To;Label\n0;10;low\n10;20;middle\n20;30;high')
    expect(codes(chart)).toEqual([['shared edge', 3], ['shared edge', 4]])
    expect(labels(chart.scale, '0', '10', '20', '30', '30.1')).toEqual(['low', 'middle', 'high', 'high', ''])
  })

  test('from and to whose last band has no end, and whose first has no beginning', () => {
    const chart = read('Min\tMax\tLabel\n0\t49\tground\n50\t64\tclimb\n65\t\tcrown')
    expect(chart.scale!.outcomes.map(({ name }) => name)).toEqual(['Label'])
    expect(labels(chart.scale, '-1', '0', '50', '65', '1000')).toEqual(['', 'ground', 'climb', 'crown', 'crown'])
    expect(labels(read('From,To,Label\n,10,low\n10,20,middle\n20,,high').scale, '-5', '15', '25')).toEqual(['low', 'middle', 'high'])
  })

  test('a first line that is a threshold is no head', () => {
    const chart = read('>=5 and <10\tmid\n10+\thigh\n< 5\tlow')
    expect(labels(chart.scale, '4.9', '5', '10')).toEqual(['low', 'mid', 'high'])
    expect(codes(read('5 about 10\tmid\n10+\thigh\n< 5\tlow\n20\tmore'))).toContainEqual(['unreadable', 1])
  })

  test('what is compared in the thresholds themselves is what the scale is on; where it is several things, none is chosen', () => {
    const { scale } = read('Decay >= 40\tFailing\n12 ≤ Decay < 40\tWatch\nDecay < 12\tSound')
    expect(scale).toMatchObject({ on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '40', owner: 'above' }] })
    expect(read('Threshold\tBand\nDecay >= 40\tFailing\nDecay < 40\tSound').scale!.on).toBe('Decay')
    expect(read('Decay (%)\tBand\n0 ≤ x < 40\tSound\nx ≥ 40\tFailing').scale!.on).toBe('Decay')
    const several = read('crown >= 90\t3\nclimb >= 60\t2')
    expect([several.scale, codes(several)]).toEqual([null, expect.arrayContaining([['several things', null]])])
  })
  test('lines of words above and below are left out, and told; one word below may be a label without its threshold', () => {
    const chart = read('Marks of the course\n\n90\tcrown\n60\tclimb\n0\tground\n\nAgreed in spring 2026')
    expect(labels(chart.scale, '95', '60', '1')).toEqual(['crown', 'climb', 'ground'])
    expect(codes(chart)).toEqual([['beside the chart', 1], ['beside the chart', 7]])
    expect(codes(read('90\tcrown\n60\tclimb\nground'))).toEqual([['uneven lines', 3]])
    expect(codes(read('90\tcrown\n60\tclimb\n0'))).toEqual([['uneven lines', 3]])
  })
  test.each(['crown 90-100\nclimb 70-90\nground 0-70', 'crown (90-100)\nclimb (70-90)\nground (0-70)', 'Marks of the course\ncrown\t90-100\nclimb\t70-90\nground\t0-70'])('labels beside their ranges, or a title above: %s', (text) => {
    expect(labels(read(text).scale, '95', '80', '5')).toEqual(['crown', 'climb', 'ground'])
  })

  test('results of one name are told apart', () => {
    expect(read('At,Label,Label\n0,a,1\n5,b,2').scale!.outcomes.map(({ name }) => name)).toEqual(['Label', 'Label 2'])
  })

  test('a header may say that numbers are where bands end', () => {
    const chart = read('Decay up to,Label\n12,Sound\n25,Watch\n100,Failing')
    expect(labels(chart.scale, '-3', '12', '12.1', '25', '26', '101')).toEqual(['Sound', 'Sound', 'Watch', 'Watch', 'Failing', ''])
  })

  test('percents, decimal commas, words, a line for all others', () => {
    const chart = read('up to 12,5 %  Sound\n12,5 % – 40 %  Watch\nover 40 %  Failing\notherwise  ask')
    expect(chart.scale).toMatchObject({ inputs: [{ unit: '%' }], cuts: [{ at: '12.5', owner: 'above' }, { at: '40', owner: 'below' }], otherwise: [{ is: 'ask' }] })
    expect(codes(chart)).toEqual([['shared edge', 2]])
  })

  test('a table of bars and dashes, and lines of a threshold and a word', () => {
    expect(labels(read('| Mark | Grade |\n|---|---|\n| 0 | low |\n| 50 | high |').scale, '49', '50')).toEqual(['low', 'high'])
    expect(labels(read('0 low\n50 high').scale, '49', '50')).toEqual(['low', 'high'])
    expect(labels(read('>= 50: high\n< 50: low').scale, '49', '50')).toEqual(['low', 'high'])
    expect(labels(read('90 and over very good\n60 to under 90 good\nunder 60 not so good').scale, '95', '60', '10')).toEqual(['very good', 'good', 'not so good'])
    expect(read('Decay Band\n40 Failing\n0 Sound').scale).toMatchObject({ on: 'Decay', outcomes: [{ name: 'Band' }] })
  })
})

describe('what is wrong with a chart is told, with its line', () => {
  test.each([
    ['', [['empty', null]]],
    ['50\n60\n70', [['one column', 1]]],
    ['good\tbad\nbetter\tworse', [['no thresholds', 2]]],
    ['0\tlow\n50\thigh\n50\thigh', [['repeated', 3]]],
    ['0\tlow\n50\thigh\n50\ttop', [['contradiction', 3]]],
    ['0–60\tlow\n50–80\thigh', [['overlap', 2]]],
    ['0–20\tlow\n50–80\thigh', [['hole', 2]]],
    ['80–50\thigh\n0–49\tlow', [['step hole', 1]]],
    ['(50..50)\thigh\n0–49\tlow', [['upside down', 1]]],
    ['50\tlow\n65\thigh', [['not low enough', 1]]],
    ['0\tlow\nmany\tmiddle\n50\thigh\n60\ttop', [['unreadable', 2]]],
    ['0\tlow\n50\thigh\textra', [['uneven lines', 1]]],
    ['0 cm\tlow\n50 %\thigh', [['mixed units', null]]],
    ['< 50\tlow\n> 50\thigh', [['hole', 2]]],
    ['\n0\tlow\n\n50\thigh\n50\ttop', [['contradiction', 5]]],
    ['90 crown\nlots climb\n0 ground', [['uneven lines', 2]]],
    ['0–9\tlow\n10\tten\n11+\thigh', [['single value', 2], ['hole', 3]]],
  ])('%j', (chart, expected) => expect(codes(read(chart))).toEqual(expected))

  test('mistakes leave no scale, and doubts leave one', () => {
    expect(read('0\tlow\n50\thigh\n50\ttop').scale).toBeNull()
    expect(read('0–20\tlow\n50–80\thigh').scale).toMatchObject({ bands: [{ entries: [{ is: 'low' }] }, { entries: [null] }, { entries: [{ is: 'high' }] }] })
  })

  test('how low it must reach can be said', () => {
    expect(codes(read('0\tlow\n50\thigh', { lowest: '-5' }))).toEqual([['not low enough', 1]])
    expect(codes(read('20\tlow\n50\thigh', { lowest: '20' }))).toEqual([])
  })
})

test('the scale labels every number as the lines of a whole chart do', () => {
  const cuts = fc.uniqueArray(fc.integer({ min: -50, max: 200 }), { minLength: 1, maxLength: 8 }).map((numbers) => numbers.toSorted((a, b) => a - b))
  fc.assert(fc.property(cuts, fc.double({ min: -60, max: 220, noNaN: true }), fc.boolean(), (numbers, value, isShuffled) => {
    const lines = numbers.map((at, index) => `${at}\tlabel ${index}`)
    const { scale } = read((isShuffled ? lines.toReversed() : lines).join('\n'))
    const expected = numbers.findLastIndex((at) => at <= value)
    expect(labels(scale, String(value))).toEqual([expected < 0 ? '' : `label ${expected}`])
  }))
})

test('whatever is pasted, something is told, and a scale that comes of it can decide', () => {
  const cell = fc.oneof(fc.constantFrom('50', '50–64', '65+', '< 20', '12 %', 'low', '', '-', '1e999', '0.5', 'otherwise', '[1..2)', '9'.repeat(60), '> 50', 'up to 3'), fc.string({ maxLength: 12, unit: 'binary' }))
  const text = fc.array(fc.array(cell, { maxLength: 4 }), { maxLength: 8 }).chain((rows) => fc.constantFrom('\t', ';', ',', ' | ', '  ', ': ').map((sign) => rows.map((row) => row.join(sign)).join('\n')))
  fc.assert(fc.property(fc.oneof(text, fc.string({ unit: 'binary' })), (chart) => {
    const { scale, remarks } = read(chart)
    if (scale) expect(lower(scale)).toHaveProperty('lowered')
    else expect(remarks.some(({ severity, message }) => severity === 'error' && message !== '')).toBe(true)
  }), { numRuns: 3000 })
})
