import { ref } from 'vue'
import { useSteady } from './useSteady'

test('a value that says the same stays the object that it was', () => {
  const source = ref({ cuts: [1], labels: ['a', 'b'] })
  const labels = useSteady(() => [...source.value.labels])
  const first = labels.value
  source.value = { cuts: [2], labels: ['a', 'b'] }
  expect(labels.value).toBe(first)
  source.value = { cuts: [2], labels: ['a', 'c'] }
  expect(labels.value).toEqual(['a', 'c'])
})
