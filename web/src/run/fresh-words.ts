/** Whether a run would come out the same if it were made now, in words. */
import type { Fresh } from '@dime-gate/contract/run'
import { differenceLines } from '../comparison/comparison-words'
import { counted } from '../shared/format'

/** @property isStale whether somebody should look; unknown is no reason yet @property why in lines; what has changed, or what keeps it from being known */
export interface FreshWords {
  words: string
  isStale: boolean
  why: string[]
}

export function freshWords({ differences, problem, otherwise }: Fresh): FreshWords {
  if (problem !== null || differences === null) return { words: 'could not be made now', isStale: true, why: problem === null ? [] : [problem] }
  const why = differenceLines(differences)
  if (why.length === 0 && (otherwise ?? 0) === 0) return { words: 'fresh', isStale: false, why }
  if (otherwise === null) return { words: 'no longer fresh', isStale: true, why }
  if (otherwise === 0) return { words: 'fresh: what changed since moves no record', isStale: false, why }
  return { words: `${counted(otherwise, 'record')} would now get something else`, isStale: true, why }
}
