import { followWait } from './follow-wait'

async function follow(...answers: (boolean | Error)[]): Promise<{ told: boolean[]; left: number }> {
  const told: boolean[] = []
  await followWait(
    () => {
      const answer = answers.shift()!
      return answer instanceof Error ? Promise.reject(answer) : Promise.resolve(answer)
    },
    (is) => told.push(is),
    1,
  )
  return { told, left: answers.length }
}

test('what waits is told once, and once more when it begins', async () => {
  expect(await follow(true, true, true, false, true)).toEqual({ told: [true, false], left: 1 })
})

test('what begins at once is not spoken of', async () => {
  expect(await follow(false)).toEqual({ told: [], left: 0 })
})

test('a server that went away meanwhile ends it', async () => {
  expect(await follow(true, new Error('away'), true)).toEqual({ told: [true, false], left: 1 })
})
