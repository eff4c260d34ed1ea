/** A recipe as a sentence with choices in it: pieces of text, and words that can be changed in place. */
import { type Column, type SetOfColumns, isComputed } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import {
  type BlankWay,
  BLANK_WAYS,
  type FigureRounding,
  type Gathering,
  GATHERINGS,
  type Length,
  LENGTHS,
  type Part,
  type Recipe,
} from '@dime-gate/core/figure/recipe'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { choice as choiceOf, type Choice as ChoiceOf, type NumberPiece as NumberPieceOf, type Piece as PieceOf } from '../shared/pieces'

type Choice = ChoiceOf<Recipe>
type NumberPiece = NumberPieceOf<Recipe>
export type Piece = PieceOf<Recipe>

/** What of a table a sentence can be about. */
export interface Subjects {
  sets: string[]
  numbers: string[]
  dates: string[]
}

/** @param own the figure itself, which is not about itself */
export function subjectsOf(columns: readonly Column[], sets: readonly SetOfColumns[], own: number | null): Subjects {
  const others = columns.filter(({ id }) => id !== own)
  return {
    sets: sets.map(({ name }) => name),
    numbers: others.filter(({ type }) => isNumeric(type)).map(({ name }) => name),
    dates: others.filter(({ type }) => type === 'date').map(({ name }) => name),
  }
}

const GATHERING_WORDS: Record<Gathering, string> = {
  mean: 'the mean',
  sum: 'the total',
  max: 'the best',
  min: 'the lowest',
  median: 'the middle one',
  count: 'how many there are',
}
const BLANK_WORDS: Record<BlankWay, string> = {
  'leave out': 'leaving out what is blank',
  'count as nothing': 'counting what is blank as 0',
  hold: 'and nothing while any is blank',
}
const LENGTH_WORDS: Record<Length, string> = {
  'completed years': 'the completed years',
  'completed months': 'the completed months',
  days: 'the days',
}

export function sentenceOf(recipe: Recipe, subjects: Subjects): Piece[] {
  const { part } = recipe
  const of = (next: Part): Recipe => ({ ...recipe, part: next })
  const choice = <Value extends string>(label: string, value: Value, options: readonly Value[], words: (value: Value) => string, take: (value: Value) => Part) =>
    choiceOf(label, value, options, words, (taken: Value) => of(take(taken)))
  const named = (label: string, value: string, options: readonly string[], take: (value: string) => Part) =>
    choice(label, value, options, (name) => name, take)
  const pieces = (): Piece[] => {
    switch (part.kind) {
      case 'gather': {
        const start: Piece[] = [
          choice(
            'what of them',
            part.how,
            GATHERINGS,
            (how) => GATHERING_WORDS[how],
            (how) => ({ ...part, how }),
          ),
          ' of ',
          named('column set', part.set, subjects.sets, (set) => ({ ...part, set })),
        ]
        return part.how === 'count'
          ? start
          : [
              ...start,
              ', ',
              choice(
                'blanks',
                part.blanks,
                BLANK_WAYS,
                (way) => BLANK_WORDS[way],
                (blanks) => ({ ...part, blanks }),
              ),
            ]
      }
      case 'full marks':
        return [
          'the percent of full marks reached in ',
          named('column set', part.set, subjects.sets, (set) => ({ ...part, set })),
          ', each out of ',
          { label: 'full marks', number: part.marks, take: (marks) => of({ ...part, marks }) },
        ]
      case 'weighted mean':
        return [
          'the weighted mean of ',
          ...part.of.flatMap(({ name, weight }, at): Piece[] => [
            ...(at === 0 ? [] : [at === part.of.length - 1 ? ' and ' : ', ']),
            named(`column ${at + 1}`, name, subjects.numbers, (taken) => ({
              ...part,
              of: part.of.map((one, index) => (index === at ? { ...one, name: taken } : one)),
            })),
            ' × ',
            {
              label: `weight of ${name}`,
              number: weight,
              take: (taken) => of({ ...part, of: part.of.map((one, index) => (index === at ? { ...one, weight: taken } : one)) }),
            },
          ]),
        ]
      case 'ratio':
        return [
          ...(part.times === '1' ? [] : [{ label: 'times', number: part.times, take: (times: string) => of({ ...part, times }) }, ' × ']),
          named('over', part.over, subjects.numbers, (over) => ({ ...part, over })),
          ' for each ',
          named('under', part.under, subjects.numbers, (under) => ({ ...part, under })),
        ]
      case 'product':
        return [
          named('one', part.one, subjects.numbers, (one) => ({ ...part, one })),
          ' times ',
          named('other', part.other, subjects.numbers, (other) => ({ ...part, other })),
        ]
      case 'difference':
        return [
          named('of', part.of, subjects.numbers, (of) => ({ ...part, of })),
          ' less ',
          named('less', part.less, subjects.numbers, (less) => ({ ...part, less })),
        ]
      case 'growth':
        return [
          'the percent by which ',
          named('now', part.now, subjects.numbers, (now) => ({ ...part, now })),
          ' is above ',
          named('before', part.before, subjects.numbers, (before) => ({ ...part, before })),
        ]
      case 'days until':
        return ['the days from the as-of date until ', named('date', part.date, subjects.dates, (date) => ({ ...part, date }))]
      case 'length since':
        return [
          choice(
            'counted in',
            part.as,
            LENGTHS,
            (as) => LENGTH_WORDS[as],
            (as) => ({ ...part, as }),
          ),
          ' since ',
          named('date', part.date, subjects.dates, (date) => ({ ...part, date })),
          ', up to the as-of date',
        ]
    }
  }
  return [...pieces(), ...roundingPieces(recipe)]
}

const ROUNDING_WORDS: Record<FigureRounding['how'] | 'none', string> = {
  none: 'not rounded',
  'half up': 'rounded, halves up',
  'half even': 'rounded, halves to the even digit',
  down: 'cut off',
}

function roundingPieces(recipe: Recipe): Piece[] {
  const { part, rounding } = recipe
  // Whole numbers have nothing to round.
  if (part.kind === 'days until' || part.kind === 'length since' || (part.kind === 'gather' && part.how === 'count')) return []
  const how: Choice = {
    label: 'rounding',
    words: ROUNDING_WORDS[rounding?.how ?? 'none'],
    options: (['none', 'half up', 'half even', 'down'] as const).map((value) => ({ value, words: ROUNDING_WORDS[value] })),
    take: (value) => ({ part, rounding: value === 'none' ? null : { how: value as FigureRounding['how'], places: rounding?.places ?? 1 } }),
  }
  if (!rounding) return [', ', how]
  const places: NumberPiece = {
    label: 'places',
    number: String(rounding.places),
    take: (text) => ({ part, rounding: { ...rounding, places: placesOf(text) ?? rounding.places } }),
  }
  return [', ', how, ' to ', places, rounding.places === 1 ? ' place' : ' places']
}

function placesOf(text: string): number | null {
  return /^\d{1,2}$/.test(text) ? Number(text) : null
}

/** Sentences that make sense of a table, each with what it would be about. */
export function proposals(
  { sets, numbers, dates }: Subjects,
  marksOf: (set: string) => string | null,
): { words: string; about: string; part: Part }[] {
  const [set] = sets
  const [one, other] = numbers
  const [date] = dates
  const marks = set === undefined ? null : marksOf(set)
  return [
    ...(set === undefined
      ? []
      : [
          {
            words: 'mean, total, best, lowest, how many',
            about: set,
            part: { kind: 'gather', how: 'mean', set, blanks: 'leave out' } as Part,
          },
        ]),
    ...(set === undefined
      ? []
      : [{ words: 'percent of full marks', about: set, part: { kind: 'full marks', set, marks: marks ?? '100' } as Part }]),
    ...(one === undefined || other === undefined
      ? []
      : [
          {
            words: 'weighted mean',
            about: `${one}, ${other}`,
            part: { kind: 'weighted mean', of: [one, other].map((name, at) => ({ name, weight: at === 0 ? '2' : '1' })) } as Part,
          },
          {
            words: 'ratio of two columns',
            about: `${one}, ${other}`,
            part: { kind: 'ratio', over: one, under: other, times: '1' } as Part,
          },
          { words: 'product of two columns', about: `${one}, ${other}`, part: { kind: 'product', one, other } as Part },
          { words: 'difference', about: `${one}, ${other}`, part: { kind: 'difference', of: other, less: one } as Part },
          { words: 'growth in percent', about: `${one}, ${other}`, part: { kind: 'growth', now: other, before: one } as Part },
        ]),
    ...(date === undefined
      ? []
      : [
          { words: 'days until a date', about: dates.join(', '), part: { kind: 'days until', date: dates.at(-1)! } as Part },
          {
            words: 'completed years, months, or days since a date',
            about: dates.join(', '),
            part: { kind: 'length since', date, as: 'completed years' } as Part,
          },
        ]),
  ]
}

/** `Modules` for Module 1, Module 2, …: names alike but for a number at their end, of which no set has any yet. */
export function guessedSets(columns: readonly Column[], sets: readonly SetOfColumns[]): SetOfColumns[] {
  const taken = new Set(sets.flatMap((set) => membersOfSet(set, columns).map(({ id }) => id)))
  const groups = new Map<string, number>()
  for (const column of columns) {
    const start = /^(.*\D)\d+$/.exec(column.name)?.[1]?.trim()
    if (start && isNumeric(column.type) && !isComputed(column) && !taken.has(column.id)) groups.set(start, (groups.get(start) ?? 0) + 1)
  }
  const names = new Set([...columns.map(({ name }) => name), ...sets.map(({ name }) => name)])
  return [...groups]
    .filter(([, members]) => members > 1)
    .map(([start]) => ({ name: plural(start, names), by: { kind: 'names', like: `${start} *` } }))
}

function plural(start: string, taken: ReadonlySet<string>): string {
  const name = `${start}s`
  return taken.has(name) ? `All ${name}` : name
}

/** Who is in a set, in words. */
export function setWords(set: SetOfColumns, columns: readonly Column[]): string {
  const names = membersOfSet(set, columns).map(({ name }) => name)
  const told =
    names.length === 0 ? 'no column yet' : names.length > 4 ? `${names[0]!} to ${names.at(-1)!}, ${names.length} columns` : names.join(', ')
  return set.by.kind === 'names'
    ? `${set.name} is ${told}, and any column of numbers named “${set.by.like.replaceAll('*', '…')}” that comes later.`
    : `${set.name} is ${told}.`
}
