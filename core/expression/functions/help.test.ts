import { FUNCTION_NAMES } from './built-in'
import { FUNCTION_HELP } from './help'

test('every function tells how it is called', () => {
  expect(FUNCTION_HELP.map(({ name }) => name)).toEqual(FUNCTION_NAMES)
  for (const { name, calls } of FUNCTION_HELP) for (const call of calls) expect(call.startsWith(`${name}(`)).toBe(true)
})

test('what people need most has a line, and no line is about nothing', () => {
  const told = FUNCTION_HELP.filter(({ line }) => line !== '').map(({ name }) => name)
  expect(told).toEqual(expect.arrayContaining(['mean', 'sum', 'round half up', 'today', 'years and months duration', 'contains']))
  expect(FUNCTION_HELP.find(({ name }) => name === 'round half up')!.calls).toEqual(['round half up(n, scale?)'])
})
