import { type Column, plainColumn, type SetOfColumns } from '@dime-gate/contract/table'
import { type Part, type Recipe, recipeFeel, recipeOf } from '@dime-gate/core/figure/recipe'
import { guessedSets, type Piece, proposals, sentenceOf, setWords, type Subjects, subjectsOf } from './sentence'

const column = (id: number, name: string, type: Column['type'] = 'number', feel: string | null = null) => plainColumn(id, name, { type, feel })
const COLUMNS = [
  column(1, 'Trainee', 'text'),
  column(2, 'Started', 'date'),
  column(3, 'Module 1'),
  column(4, 'Module 2'),
  column(5, 'Module 3'),
  column(6, 'Attendance', 'percent'),
  column(7, 'Mean', 'number', 'mean(Modules)'),
]
const MODULES: SetOfColumns = { name: 'Modules', by: { kind: 'names', like: 'Module *' } }
const SUBJECTS: Subjects = subjectsOf(COLUMNS, [MODULES], 7)

const text = (pieces: readonly Piece[]) =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : 'words' in piece ? piece.words : piece.number)).join('')
const said = (part: Part, rounding: Recipe['rounding'] = null) => text(sentenceOf({ part, rounding }, SUBJECTS))
const choice = (recipe: Recipe, label: string) =>
  sentenceOf(recipe, SUBJECTS).find((piece) => typeof piece !== 'string' && piece.label === label) as Exclude<Piece, string>

test('a figure can be about whatever is there, but not about itself', () => {
  expect(SUBJECTS).toEqual({ sets: ['Modules'], numbers: ['Module 1', 'Module 2', 'Module 3', 'Attendance'], dates: ['Started'] })
  expect(subjectsOf(COLUMNS, [], null).numbers).toContain('Mean')
})

test.each<[Part, string]>([
  [{ kind: 'gather', how: 'mean', set: 'Modules', blanks: 'leave out' }, 'the mean of Modules, leaving out what is blank, not rounded'],
  [{ kind: 'gather', how: 'count', set: 'Modules', blanks: 'leave out' }, 'how many there are of Modules'],
  [{ kind: 'full marks', set: 'Modules', marks: '5' }, 'the percent of full marks reached in Modules, each out of 5, not rounded'],
  [
    {
      kind: 'weighted mean',
      of: [
        { name: 'Module 1', weight: '2' },
        { name: 'Module 2', weight: '1' },
      ],
    },
    'the weighted mean of Module 1 × 2 and Module 2 × 1, not rounded',
  ],
  [{ kind: 'ratio', over: 'Module 1', under: 'Attendance', times: '100' }, '100 × Module 1 for each Attendance, not rounded'],
  [{ kind: 'length since', date: 'Started', as: 'completed years' }, 'the completed years since Started, up to the as-of date'],
])('%j reads as a sentence', (part, words) => expect(said(part)).toBe(words))

test('rounding is said, with its places', () => {
  expect(said({ kind: 'product', one: 'Module 1', other: 'Module 2' }, { how: 'half up', places: 1 })).toBe(
    'Module 1 times Module 2, rounded, halves up to 1 place',
  )
})

test('every word that can be changed changes that alone, and its expression with it', () => {
  const recipe: Recipe = { part: { kind: 'gather', how: 'mean', set: 'Modules', blanks: 'leave out' }, rounding: null }
  expect(recipeFeel(choice(recipe, 'what of them').take('max'))).toBe('max(Modules)')
  expect(recipeFeel(choice(recipe, 'blanks').take('hold'))).toBe('mean(all Modules)')
  const rounded = choice(recipe, 'rounding').take('half up')
  expect(recipeFeel(rounded)).toBe('round half up(mean(Modules), 1)')
  expect(recipeFeel(choice(rounded, 'places').take('2'))).toBe('round half up(mean(Modules), 2)')
  expect(recipeFeel(choice(rounded, 'places').take('many'))).toBe('round half up(mean(Modules), 1)')
  expect(recipeFeel(choice(rounded, 'rounding').take('none'))).toBe('mean(Modules)')
  const weighted: Recipe = {
    part: {
      kind: 'weighted mean',
      of: [
        { name: 'Module 1', weight: '2' },
        { name: 'Module 2', weight: '1' },
      ],
    },
    rounding: null,
  }
  expect(recipeFeel(choice(weighted, 'weight of Module 2').take('3'))).toBe('(2 * Module 1 + 3 * Module 2) / (2 + 3)')
})

test('all that is proposed can be said and read back', () => {
  const names = ['Modules', 'all Modules', ...COLUMNS.map(({ name }) => name)]
  const all = proposals(SUBJECTS, () => '5')
  expect(all.map(({ part }) => part.kind)).toEqual([
    'gather',
    'full marks',
    'weighted mean',
    'ratio',
    'product',
    'difference',
    'growth',
    'days until',
    'length since',
  ])
  for (const { part } of all) expect(recipeOf(recipeFeel({ part, rounding: null }), names, ['Modules'])).toEqual({ part, rounding: null })
  expect(proposals({ sets: [], numbers: ['One'], dates: [] }, () => null)).toEqual([])
})

test('columns that are numbered are proposed as a set, unless they are in one', () => {
  expect(guessedSets(COLUMNS, [])).toEqual([MODULES])
  expect(guessedSets(COLUMNS, [MODULES])).toEqual([])
  expect(guessedSets([...COLUMNS, column(8, 'Modules', 'text')], [])[0]!.name).toBe('All Modules')
  expect(guessedSets([column(1, 'Drill 1'), column(2, 'Drill two')], [])).toEqual([])
})

test('who is in a set is told', () => {
  expect(setWords(MODULES, COLUMNS)).toBe(
    'Modules is Module 1, Module 2, Module 3, and any column of numbers named “Module …” that comes later.',
  )
  expect(setWords({ name: 'Two', by: { kind: 'columns', columns: [3, 5] } }, COLUMNS)).toBe('Two is Module 1, Module 3.')
  expect(setWords({ name: 'None', by: { kind: 'names', like: 'Drill *' } }, COLUMNS)).toMatch(/^None is no column yet/)
})
