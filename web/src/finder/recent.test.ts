import { noteVisit, recentPlaces } from './recent'

function storage(begun = '') {
  let text: string | null = begun || null
  return { getItem: () => text, setItem: (_: string, now: string) => void (text = now) }
}

test('places are told with the last one first, each once', () => {
  const kept = storage()
  for (const path of ['/gates/1', '/tables/3', '/', '/tables', '/gates/1']) noteVisit(path, kept)
  expect(recentPlaces(kept)).toEqual(['/gates/1', '/tables/3'])
})

test('no more are kept than anybody looks at, and what cannot be read is nothing', () => {
  const kept = storage()
  for (let id = 0; id < 40; id++) noteVisit(`/runs/${id}`, kept)
  expect(recentPlaces(kept)).toHaveLength(12)
  expect(recentPlaces(kept)[0]).toBe('/runs/39')
  expect(recentPlaces(storage('{'))).toEqual([])
  expect(recentPlaces(storage('{"a":1}'))).toEqual([])
})
