import { parseExpression } from '../expression/parse'
import { type Part, type Recipe, recipeFeel, recipeOf, recipeUnit } from './recipe'
import { unitOfFigure } from './units'

const SETS = ['Modules', 'Drill times']
const NAMES = [
  'Modules',
  'all Modules',
  'Drill times',
  'all Drill times',
  'Trunk',
  'Height',
  'Stands by',
  'Started',
  'Next due',
  'Module 1',
  'Module 2',
]

const PARTS: Part[] = [
  ...(['mean', 'sum', 'max', 'min', 'median'] as const).flatMap((how) =>
    (['leave out', 'count as nothing', 'hold'] as const).map((blanks): Part => ({ kind: 'gather', how, set: 'Drill times', blanks })),
  ),
  { kind: 'gather', how: 'count', set: 'Modules', blanks: 'leave out' },
  { kind: 'full marks', set: 'Modules', marks: '5' },
  {
    kind: 'weighted mean',
    of: [
      { name: 'Module 1', weight: '2' },
      { name: 'Module 2', weight: '1' },
      { name: 'Trunk', weight: '0.5' },
    ],
  },
  { kind: 'ratio', over: 'Height', under: 'Trunk', times: '1' },
  { kind: 'ratio', over: 'Height', under: 'Trunk', times: '100' },
  { kind: 'product', one: 'Height', other: 'Trunk' },
  { kind: 'difference', of: 'Module 2', less: 'Module 1' },
  { kind: 'growth', now: 'Module 2', before: 'Module 1' },
  { kind: 'days until', date: 'Next due' },
  { kind: 'length since', date: 'Started', as: 'completed years' },
  { kind: 'length since', date: 'Started', as: 'completed months' },
  { kind: 'length since', date: 'Started', as: 'days' },
]

/** Sentence and expression are two views of one thing. */
test.each(PARTS.map((part) => [recipeFeel({ part, rounding: null }), part] as const))('%s is the sentence again', (feel, part) => {
  expect(recipeOf(feel, NAMES, SETS)).toEqual({ part, rounding: null })
  for (const how of ['half up', 'half even', 'down'] as const) {
    const recipe: Recipe = { part, rounding: { how, places: 1 } }
    expect(recipeOf(recipeFeel(recipe), NAMES, SETS)).toEqual(recipe)
  }
})

test('spaces and brackets that say nothing do not matter', () => {
  expect(recipeOf('  ( mean( Modules ) ) ', NAMES, SETS)).toEqual({
    part: { kind: 'gather', how: 'mean', set: 'Modules', blanks: 'leave out' },
    rounding: null,
  })
})

test.each([
  'mean(Modules) + 1',
  'Height / Trunk / 2',
  'if Height > 3 then 1 else 2',
  '100',
  'Height',
  'mean(',
  'sum(Modules) / count(Drill times)',
  'round half up(Height, Trunk)',
])('no sentence says %s', (feel) => {
  expect(recipeOf(feel, NAMES, SETS)).toBeNull()
})

test.each<[Part, string]>([
  [{ kind: 'gather', how: 'mean', set: 'Modules', blanks: 'hold' }, 'marks'],
  [{ kind: 'gather', how: 'count', set: 'Modules', blanks: 'leave out' }, ''],
  [{ kind: 'gather', how: 'mean', set: 'Modules', blanks: 'count as nothing' }, 'marks'],
  [{ kind: 'weighted mean', of: [{ name: 'Height', weight: '2' }, { name: 'Height', weight: '1' }] }, 'm'],
  [{ kind: 'full marks', set: 'Modules', marks: '5' }, '%'],
  [{ kind: 'ratio', over: 'Weight', under: 'Height', times: '1' }, 'kg/m'],
  [{ kind: 'ratio', over: 'Height', under: 'Height', times: '1' }, ''],
  [{ kind: 'product', one: 'Height', other: 'Height' }, 'm²'],
  [{ kind: 'product', one: 'Height', other: 'Weight' }, 'm·kg'],
  [{ kind: 'length since', date: 'Started', as: 'completed years' }, 'years'],
  [{ kind: 'days until', date: 'Started' }, 'days'],
  [{ kind: 'difference', of: 'Height', less: 'Height' }, 'm'],
  [{ kind: 'growth', now: 'Height', before: 'Height' }, '%'],
  [{ kind: 'length since', date: 'Started', as: 'completed months' }, 'months'],
])('the unit of %j is “%s”', (part, unit) => {
  const units: Record<string, string> = { Modules: 'marks', 'all Modules': 'marks', Height: 'm', Weight: 'kg' }
  const recipe: Recipe = { part, rounding: { how: 'half up', places: 1 } }
  const feel = recipeFeel(recipe)
  const parsed = parseExpression(feel, [...NAMES, 'Weight'])
  if ('problem' in parsed) throw new Error(feel)
  const { unit: found, troubles } = unitOfFigure(parsed.tree, feel, (name) => units[name] ?? null)
  expect([recipeUnit(recipe) ?? found, troubles]).toEqual([unit, []])
})
