import type { Fresh } from '@dime-gate/contract/run'
import { freshWords } from './fresh-words'

const SAME = { gate: null, table: null, asOf: null, binding: [], feeding: [], figures: [] }
const MOVED: Fresh['differences'] = { ...SAME, table: { from: 3, to: 4 } }

test.each<[string, Fresh, string, boolean, string[]]>([
  ['nothing changed', { differences: SAME, problem: null, otherwise: 0 }, 'fresh', false, []],
  ['nothing changed, and nobody counted', { differences: SAME, problem: null, otherwise: null }, 'fresh', false, []],
  ['something changed, and nobody counted', { differences: MOVED, problem: null, otherwise: null }, 'no longer fresh', true, ['the table: version 3 → 4']],
  ['it moves nobody', { differences: MOVED, problem: null, otherwise: 0 }, 'fresh: what changed since moves no record', false, ['the table: version 3 → 4']],
  ['it moves one', { differences: MOVED, problem: null, otherwise: 1 }, '1 record would now get something else', true, ['the table: version 3 → 4']],
  ['another table changed what is drawn from it', { differences: SAME, problem: null, otherwise: 7 }, '7 records would now get something else', true, []],
  ['it could not be made', { differences: null, problem: 'No column stands for Decay.', otherwise: null }, 'could not be made now', true, ['No column stands for Decay.']],
])('%s', (_, fresh, words, isStale, why) => {
  expect(freshWords(fresh)).toEqual({ words, isStale, why })
})
