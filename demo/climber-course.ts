/** The climber course of the tree office: invented trainees and their marks, flaws included. */
import { type Chance, chance, dayFromAsOf } from './chance'
import { inventedNames } from './invented-names'

const MODULES = ['Module 1', 'Module 2', 'Module 3', 'Module 4', 'Module 5', 'Module 6'] as const

export const CLIMBER_COURSE_COLUMNS = [
  'Trainee', 'Group', 'Started', ...MODULES.map((name) => `${name} (out of 5)`), 'Rescue drill (s)', 'Attendance (%)',
]

const TRAINEES = 64
const GROUPS = ['Monday', 'Wednesday', 'Saturday']

export function* climberCourse(seed = 64): Generator<string[]> {
  const luck = chance(seed)
  let number = 0
  for (const name of inventedNames(TRAINEES, luck)) yield trainee(++number, name, luck)
}

function trainee(number: number, name: string, luck: Chance): string[] {
  const skill = 3.4 + 0.75 * luck.spread()
  const taken = luck.share() < 0.25 ? luck.whole(2, 5) : 6
  const marks = MODULES.map((_, module) => {
    const mark = Math.min(5, Math.max(0, Math.round((skill + 0.7 * luck.spread()) * 2) / 2))
    return module < taken ? String(mark) : ''
  })
  // A mean of exactly 3.5, and a mark that cannot be.
  if (number === 17) marks.splice(0, 6, '3', '4', '3.5', '3.5', '4', '3')
  if (number === 41) marks[2] = '6'
  return [
    name, luck.one(GROUPS), dayFromAsOf(-luck.whole(20, 320)), ...marks,
    luck.share() < 0.08 ? '' : String(Math.round(240 - 28 * skill + 24 * luck.spread())),
    String(Math.min(100, Math.max(35, Math.round(86 + 9 * luck.spread())))),
  ]
}
