import { useTelling } from './useTelling'

test('what goes wrong is told, and forgotten once something goes well', async () => {
  const { trouble, tell } = useTelling()
  expect(await tell(() => Promise.reject(new Error('There is no such table.')))).toBe(false)
  expect(trouble.value).toBe('There is no such table.')
  expect(await tell(() => Promise.resolve(1))).toBe(true)
  expect(trouble.value).toBe('')
})
