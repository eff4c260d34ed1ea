import { completionsFor, type Name } from './completions'

const NAMES: Name[] = ['Module 1', 'Module 10', 'Modules', 'Next due', 'mean age'].map((name) => ({ name, detail: '' }))
const labels = (before: string, isAsked = false) => completionsFor(before, NAMES, isAsked)?.options.map(({ label }) => label)

test.each([
  ['Mod', ['Module 1', 'Module 10', 'Modules', 'modulo', 'mode']],
  ['2 * module 1', ['Module 1', 'Module 10']],
  ['sum(next d', ['Next due']],
  ['round h', ['round half up', 'round half down']],
  ['mean a', ['mean age']],
])('%s goes on with %j', (before, expected) => expect(labels(before)).toEqual(expected))

test.each(['"Mod', 'Next due', '1 + ', 'Zz', ''])('%j goes on with nothing by itself', (before) => expect(labels(before)).toBeUndefined())

test('all there is where it is asked for', () => {
  expect(labels('1 + ', true)!.length).toBeGreaterThan(70)
  expect(labels('', true)).toContain('Modules')
})

test('what stands before stays, and the caret comes to stand within the brackets', () => {
  const { from, options } = completionsFor('2 * round half u', NAMES, false)!
  expect([from, options[0]]).toEqual([
    4,
    {
      label: 'round half up',
      insert: 'round half up()',
      back: 1,
      kind: 'function',
      detail: '(n, scale?)',
      info: expect.stringContaining('halves away from zero') as string,
    },
  ])
  expect(completionsFor('toda', NAMES, false)!.options[0]).toMatchObject({ insert: 'today()', back: 0 })
})
