import { ref } from 'vue'
import { whileFetching } from './while-fetching'

test('progress is told until the answer is there, and never after it', async () => {
  const fetched = ref<number | null>(null)
  let tell: (records: number) => void = () => undefined
  let answer: (value: string) => void = () => undefined
  const whole = whileFetching(fetched, (progress) => {
    tell = progress
    return new Promise<string>((resolve) => (answer = resolve))
  })
  expect(fetched.value).toBe(0)
  tell(7)
  expect(fetched.value).toBe(7)
  answer('all')
  expect(await whole).toBe('all')
  tell(8)
  expect(fetched.value).toBeNull()
})

test('what cannot be fetched is no longer under way', async () => {
  const fetched = ref<number | null>(null)
  await expect(whileFetching(fetched, () => Promise.reject(new Error('gone')))).rejects.toThrow('gone')
  expect(fetched.value).toBeNull()
})
