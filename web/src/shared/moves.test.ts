import { effectScope } from 'vue'
import { aLine } from '../testing/a-line'
import { useMoves, useReviewMoves } from './moves'

let line: ReturnType<typeof aLine>
let heard: string[] = []
beforeEach(() => {
  jest.useFakeTimers()
  line = aLine()
  heard = []
})
afterEach(() => jest.useRealTimers())

/** Whoever looks at a table that stands on others. */
function lookAt(id: number | null, ...standsOn: number[]) {
  const scope = effectScope()
  scope.run(() => useMoves(() => (id === null ? null : { id, standsOn }), (version) => heard.push(`${id}: ${version ?? 'look'}`)))
  return scope
}

test('one line serves all of the page, and ends with whoever leaves last', () => {
  const scopes = [lookAt(1), lookAt(2)]
  const review = effectScope()
  review.run(() => useReviewMoves(() => heard.push('review')))
  expect(line.lines.map(({ url }) => url)).toEqual(['ws://127.0.0.1:4170/api/v1/moves'])
  scopes.forEach((scope) => scope.stop())
  expect(line.lines[0]!.isClosed).toBe(false)
  review.stop()
  expect(line.lines[0]!.isClosed).toBe(true)
  lookAt(1).stop()
  expect(line.lines.length).toBe(2)
})

test('a table tells its version to whoever looks at it; one that is drawn from it is to be looked at; others hear nothing', () => {
  const scopes = [lookAt(1), lookAt(2, 1), lookAt(3), lookAt(null)]
  line.say({ table: 1, version: 8 })
  expect(heard).toEqual(['1: 8', '2: look'])
  scopes.forEach((scope) => scope.stop())
})

test('what is done in the review is heard by whoever shows it alone; where some may have been missed, all look', () => {
  const scopes = [lookAt(1), effectScope()]
  scopes[1]!.run(() => useReviewMoves(() => heard.push('review')))
  line.say({ review: true })
  expect(heard).toEqual(['review'])
  line.say(null)
  expect(heard).toEqual(['review', 'review', '1: look'])
  scopes.forEach((scope) => scope.stop())
})

test('a line that breaks is opened again after a while, as long as anybody listens', () => {
  const scope = lookAt(1)
  line.break()
  expect(line.lines.length).toBe(1)
  jest.advanceTimersByTime(2500)
  expect(line.lines.length).toBe(2)
  line.say({ table: 1, version: 9 })
  expect(heard).toEqual(['1: 9'])
  line.break()
  scope.stop()
  jest.advanceTimersByTime(10_000)
  expect(line.lines.length).toBe(2)
})
