import type { Check } from '@dime-gate/contract/expectation'
import type { Override } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import { mustKnow } from './must-know'

const counts = (change: Partial<NonNullable<Run['counts']>>) => ({ counts: { records: 200, held: 0, unplaced: 0, contested: 0, ...change } as NonNullable<Run['counts']> })

test('nothing must be known where every record has its label, all is met and looked at', () => {
  expect(mustKnow(counts({}), [], [], 0)).toEqual([])
})

test('what has no label comes first, with its share; then what was missed, done by hand, and left', () => {
  expect(mustKnow(counts({ held: 10, unplaced: 1 }), [{ off: 2, problem: null }] as Check[], [{}] as Override[], 3)).toEqual([
    '10 records of 200 (5.0 %) held: a missing or unreadable value could change the label, so none was given.',
    '1 record of 200 (0.5 %) unplaced: nothing that the gate says takes them.',
    '1 expectation missed.', '1 label given by hand; the counts are what the gate gave.', '3 exceptions not looked at yet.',
  ])
})
