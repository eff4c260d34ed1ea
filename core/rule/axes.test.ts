import { lowered } from './lower'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { textOfValue } from '../value/value-text'
import { spaceOf } from './axes'

const axes = (inputs: ReturnType<typeof anInput>[], ...conditions: string[]) =>
  spaceOf(lowered(rulesGate(inputs, conditions.map((condition) => [condition, 'x']))), TODAY).axes.map(({ name, regions }) => [name, regions.map(({ text, example }) => `${text} as ${textOfValue(example)}`)])

test('a number is cut at every constant of its tests', () => {
  expect(axes([anInput('Decay', 'number')], 'Decay < 12', 'Decay in [12..12.5]')).toEqual([['Decay', ['< 12 as 11', '12 as 12', '(12..12.5) as 12.2', '12.5 as 12.5', '> 12.5 as 14']]])
})
test('a rounded number has only the values that rounding leaves', () => {
  const inputs = [anInput('Decay', 'number', { precision: { kind: 'truncated', places: 0 } })]
  expect(axes(inputs, 'Decay < 12', 'Decay > 13', 'Decay > 13.5')).toEqual([['Decay', ['< 12 as 11', '12 as 12', '13 as 13', '> 13.5 as 14']]])
})
test('days have none between neighbours; the as-of date is a day like another', () => {
  expect(axes([anInput('Due', 'date')], 'Due < today()', 'Due <= @"2026-03-03"')).toEqual([['Due', ['< @"2026-03-02" as 2026-03-01', '@"2026-03-02" as 2026-03-02', '@"2026-03-03" as 2026-03-03', '> @"2026-03-03" as 2026-03-04']]])
})
test('texts are those that are named, those expected, and anything else', () => {
  const inputs = [anInput('Species', 'text', { expected: { kind: 'list', values: ['elm'] } })]
  expect(axes(inputs, 'Species = "oak"')).toEqual([['Species', ['"oak" as oak', '"elm" as elm', 'not("oak", "elm") as anything else']]])
})
test('yes and no; expressions and what cannot be taken apart have axes of their own', () => {
  const inputs = [anInput('Dead', 'boolean'), anInput('A', 'number'), anInput('B', 'number'), anInput('Species', 'text')]
  expect(axes(inputs, 'Dead', 'A / B > 3', 'A > B', 'contains(Species, "oak")').toSorted()).toEqual([
    ['A - B', ['< 0 as -1', '0 as 0', '> 0 as 1']],
    ['A / B', ['< 3 as 2', '3 as 3', '> 3 as 4']],
    ['Dead', ['true as true', 'false as false']],
    ['contains(Species, "oak")', ['true as true', 'false as false']],
  ])
})
test('durations lie along an axis too', () => {
  expect(axes([anInput('Service', 'years and months duration'), anInput('Drill', 'days and time duration')], 'Service >= @"P8Y"', 'Drill < @"PT3M"')).toEqual([
    ['Service', ['< @"P8Y" as P7Y11M', '@"P8Y" as P8Y', '> @"P8Y" as P8Y1M']],
    ['Drill', ['< @"PT3M" as PT2M59S', '@"PT3M" as PT3M', '> @"PT3M" as PT3M1S']],
  ])
})
