import type { Run } from '@dime-gate/contract/run'
import type { AllCounts } from '@dime-gate/core/result/counts'
import { offBy } from '@dime-gate/core/expectation/expectation'
import fc from 'fast-check'
import { expectationWords } from './expectation-words'
import { proposedExpectations } from './proposed'

const run = (labels: [string, number][], counts: Partial<AllCounts>) => ({
  labels: labels.map(([label, records]) => ({ label, records, colour: '#000000', mark: 'disc' })) as Run['labels'],
  counts: { records: labels.reduce((sum, [, records]) => sum + records, 0) + (counts.held ?? 0), held: 0, unplaced: 0, contested: 0, unreadable: 0, outside: 0, ...counts } as AllCounts,
})

test('a run suggests its own shares with room around them, and that nothing comes where nothing was', () => {
  expect(proposedExpectations(run([['Fell', 50], ['Leave', 900], ['Never', 0], ['Ask', 5]], { held: 45, unreadable: 2 })).map((one) => expectationWords(one, []))).toEqual([
    'Fell from 4.5 to 5.5\u00a0%', 'Leave from 81 to 99\u00a0%', 'Ask from 0.45 to 0.55\u00a0%', 'unplaced none', 'contested none', 'not expected none', 'held at most 45',
  ])
})

test('the run that suggests them meets them, whatever it is', () => {
  fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 3000 }), { minLength: 1, maxLength: 6 }), fc.integer({ min: 0, max: 40 }), (records, held) => {
    const own = run(records.map((one, at) => [`label ${at}`, one]), { held })
    for (const expectation of proposedExpectations(own)) {
      if (expectation.kind !== 'count') throw new Error('a run suggests counts alone')
      const { of } = expectation
      const got = of.kind === 'label' ? own.labels.find(({ label }) => label === of.label)!.records : of.kind === 'status' && of.status === 'held' ? held : 0
      expect(offBy(expectation.bounds, got, own.counts.records)).toBe(0)
    }
  }))
})
