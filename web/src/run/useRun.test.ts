import type { Run } from '@dime-gate/contract/run'
import { effectScope } from 'vue'
import { useRun } from './useRun'

const at = (state: Run['state'], progress: number | null = null) => ({ state, progress, counts: null }) as Run

/** @param answers what is seen, look after look; an error is thrown */
function follow(answers: (Run | Error)[]) {
  const done: Run[] = []
  const scope = effectScope()
  const used = scope.run(() => useRun(async () => {
    const next = answers.shift() ?? new Error('nothing more')
    if (next instanceof Error) throw next
    return next
  }, async (run) => void done.push(run)))!
  return { ...used, done, leave: () => scope.stop() }
}

test('a run is looked at until it is done', async () => {
  const { run, follow: start, done } = follow([at('under way', 0), at('under way', 7), at('done')])
  await start()
  expect([run.value?.state, done.length]).toEqual(['done', 1])
})

test('one that failed ends the looking, and is not shown as done', async () => {
  const { run, follow: start, done, trouble } = follow([at('under way', 0), at('failed')])
  await start()
  expect([run.value?.state, done, trouble.value]).toEqual(['failed', [], ''])
})

test('what could not be had is told, and can be asked for again', async () => {
  const { run, follow: start, trouble, done } = follow([new Error('The server does not answer.'), at('done')])
  await start()
  expect([run.value, trouble.value]).toEqual([null, 'The server does not answer.'])
  await start()
  expect([run.value?.state, trouble.value, done.length]).toEqual(['done', '', 1])
})

test('nobody looks any more once the page is left', async () => {
  const answers = [at('under way', 0), at('under way', 1), at('done')]
  const { follow: start, leave, done } = follow(answers)
  const following = start()
  setTimeout(leave, 20)
  await following
  expect([answers.length, done.length]).toEqual([2, 0])
})
