import { nextTick } from 'vue'
import { useUnfinished } from './useUnfinished'

function storage() {
  const all = new Map<string, string>()
  return { all, getItem: (name: string) => all.get(name) ?? null, setItem: (name: string, text: string) => void all.set(name, text), removeItem: (name: string) => void all.delete(name) }
}

test('what is not finished is there again after a reload, gate by gate, until it is let go', async () => {
  const kept = storage()
  const texts = useUnfinished('gate 1', kept)
  texts.set(2, 'Decay >')
  texts.set('a-b', 'Lean <')
  await nextTick()
  expect([...useUnfinished('gate 1', kept)]).toEqual([[2, 'Decay >'], ['a-b', 'Lean <']])
  expect(useUnfinished('gate 2', kept).size).toBe(0)
  texts.clear()
  await nextTick()
  expect(kept.all.size).toBe(0)
})

test.each(['{', '{"a":1}', '[[1]]', '[["x",3]]'])('%s, which nobody here wrote, is nothing', (text) => {
  expect(useUnfinished('gate 1', { ...storage(), getItem: () => text }).size).toBe(0)
})
