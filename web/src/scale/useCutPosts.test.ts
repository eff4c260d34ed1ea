import { scaleLinear } from 'd3-scale'
import { useCutPosts } from './useCutPosts'

/** A line of 400 pixels from 0 to 100 that begins at 1,000 on the screen, with cuts at 12 and 40. */
function line() {
  const done: unknown[][] = []
  const cuts = [{ at: '12', owner: 'above' as const }, { at: '40', owner: 'above' as const }]
  const act = (name: string) => (...told: unknown[]) => void done.push([name, ...told])
  const posts = useCutPosts(
    { cuts: () => cuts, along: () => scaleLinear().domain([0, 100]).range([0, 400]), places: () => 0, pointer: (event) => event.clientX, begins: () => 1000, steps: { ArrowRight: 1, ArrowLeft: -1 }, name: '' },
    { move: act('move'), moved: act('moved'), owner: act('owner'), remove: act('remove'), type: act('type') },
  )
  const target = { setPointerCapture: () => undefined, focus: () => undefined }
  const pointer = (clientX: number, button = 0) => ({ clientX, button, pointerId: 1, currentTarget: target }) as unknown as PointerEvent
  const key = (name: string, held: Partial<KeyboardEvent> = {}) => posts.key({ key: name, preventDefault: () => undefined, stopPropagation: () => undefined, ...held } as KeyboardEvent, 1)
  return { posts, done, pointer, key }
}

test('a post moves as the hand does, from where it was taken, and a drag is one step', () => {
  const { posts, done, pointer } = line()
  // Taken three pixels beside its middle, which is at 1,160.
  posts.press(pointer(1163), 1)
  posts.drag(pointer(1163))
  posts.drag(pointer(1203))
  posts.release()
  posts.drag(pointer(1300))
  expect(done).toEqual([['move', 1, '50', 'drag 1'], ['moved']])
})

test('Escape gives a drag up; another button than the first takes nothing', () => {
  const { posts, done, pointer, key } = line()
  posts.press(pointer(1160, 2), 1)
  expect(posts.dragged.value).toBeNull()
  posts.press(pointer(1160), 1)
  posts.drag(pointer(1240))
  key('Escape')
  expect(done).toEqual([['move', 1, '60', 'drag 1'], ['move', 1, '40', 'drag 1'], ['moved']])
})

test('keys nudge by steps that can be seen, ten at once with Shift, and do what else there is to do', () => {
  const { done, key } = line()
  for (const name of ['ArrowRight', 'ArrowUp', 'o', 'Delete', 'Enter']) key(name)
  key('ArrowLeft', { shiftKey: true })
  key('ArrowLeft', { ctrlKey: true })
  expect(done).toEqual([['move', 1, '41', 'nudge 1'], ['owner', 1], ['remove', 1], ['type', 1], ['move', 1, '30', 'nudge 1']])
})

test('a click beyond the line is a click at its end', () => {
  const { posts, pointer } = line()
  expect([posts.valueUnder(pointer(900)), posts.valueUnder(pointer(1100)), posts.valueUnder(pointer(9000))]).toEqual(['0', '25', '100'])
})
