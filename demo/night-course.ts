/** The night course: the same facts as the climber course, under names of its own. */
import { chance, dayFromAsOf } from './chance'
import { inventedNames } from './invented-names'

const EVENINGS = ['Tuesday', 'Thursday']
const MARKS = ['A', 'B', 'C', 'D', 'E', 'F']

export const NIGHT_COURSE_COLUMNS = [
  'Name',
  'Evening',
  'First evening',
  ...MARKS.map((name) => `Mark ${name} (out of 5)`),
  'Drill time (s)',
  'Present (%)',
]

const PEOPLE = 41

export function* nightCourse(seed = 41): Generator<string[]> {
  const luck = chance(seed)
  for (const name of inventedNames(PEOPLE, luck)) {
    const skill = 3.1 + 0.8 * luck.spread()
    const taken = luck.share() < 0.35 ? luck.whole(0, 5) : MARKS.length
    yield [
      name,
      luck.one(EVENINGS),
      dayFromAsOf(-luck.whole(20, 320)),
      ...MARKS.map((_, at) => (at < taken ? String(Math.min(5, Math.max(0, Math.round((skill + 0.8 * luck.spread()) * 2) / 2))) : '')),
      luck.share() < 0.1 ? '' : String(Math.round(250 - 26 * skill + 26 * luck.spread())),
      String(Math.min(100, Math.max(30, Math.round(82 + 11 * luck.spread())))),
    ]
  }
}
