import { scaleLinear } from 'd3-scale'
import { anInput } from '@dime-gate/core/testing/a-gate'
import { axisWords, lineKindOf } from './axis-words'
import { readCutList } from './cut-list'
import { numberOnLine } from '@dime-gate/core/gate/scale-axis'

const dates = axisWords('date')
const day = (iso: string) => numberOnLine(iso, 'date')

test('days are told and typed as days', () => {
  expect(dates.say(day('2024-03-02'))).toBe('2 Mar 2024')
  expect(['2 Mar 2024', '2024-03-02', '02.03.2024'].map(dates.read)).toEqual([day('2024-03-02'), day('2024-03-02'), day('2024-03-02')])
  expect([dates.read('31 Apr 2024'), dates.read('soon'), dates.read('')]).toEqual([null, null, null])
})

test('a line of days is marked by years, or by days', () => {
  const along = (from: string, to: string) => scaleLinear().domain([Number(day(from)), Number(day(to))]).range([0, 900])
  expect(dates.ticks(along('1990-06-01', '2021-02-01'), 10).map(({ label }) => label)).toEqual(['1995', '2000', '2005', '2010', '2015', '2020'])
  expect(dates.ticks(along('2024-01-30', '2024-02-20'), 6)[0]).toEqual({ value: Number(day('2024-02-04')), label: '4 Feb 2024' })
})

test('days are typed in a list, parted by semicolons or lines', () => {
  expect(readCutList('1 Jan 2024; soon', dates)).toEqual({ wrong: '“soon” is no date.' })
  expect(readCutList('1 Jan 2024; 1 Jan 2020\n2022-01-01;', dates)).toEqual({ cuts: [day('2020-01-01'), day('2022-01-01'), day('2024-01-01')] })
})

test('lengths of time are told in days', () => {
  const lengths = axisWords('days and time duration')
  expect([lengths.say('1.5'), lengths.read('1.5 d'), lengths.read('180 days'), lengths.read('12'), lengths.read('a week')]).toEqual(['1.5 d', '1.5', '180', '12', null])
  expect(lengths.ticks(scaleLinear().domain([0, 400]).range([0, 900]), 4).map(({ label }) => label)).toEqual(['0 d', '100 d', '200 d', '300 d', '400 d'])
})

test('ages are told and marked in years', () => {
  const ages = axisWords('years and months duration')
  expect([ages.say('27'), ages.read('2 y 3 m'), ages.read('old')]).toEqual(['2 y 3 m', '27', null])
  expect(ages.ticks(scaleLinear().domain([0, 500]).range([0, 900]), 4).map(({ value, label }) => [value, label])).toEqual([[0, '0 y'], [120, '10 y'], [240, '20 y'], [360, '30 y'], [480, '40 y']])
})

test('what a side is on says what its line is of', () => {
  const gate = { inputs: [anInput('Planted', 'date'), anInput('Decay', 'number'), anInput('Species', 'text')] }
  expect(['Planted', 'Decay', 'Species', 'gone'].map((on) => lineKindOf(gate, on))).toEqual(['date', 'number', 'number', 'number'])
})
