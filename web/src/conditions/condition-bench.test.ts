import { LINE_STYLES, linesFor } from './condition-bench'

test('each input that is pointed out has a line of its own, whatever how often it is looked at', () => {
  expect([...linesFor(['Decay', 'Lean', 'Decay'])]).toEqual([
    ['Decay', 'solid'],
    ['Lean', 'double'],
  ])
})

test('nobody tells more lines apart than there are', () => {
  const names = Array.from({ length: 9 }, (_, at) => `input ${at}`)
  expect([...linesFor(names).keys()]).toEqual(names.slice(0, LINE_STYLES.length))
})
