import { z } from 'zod'
import { ask, askAhead } from './api'

let paths: string[]
let status: number
beforeEach(() => {
  paths = []
  status = 200
  globalThis.fetch = ((path: string) => {
    paths.push(path)
    return Promise.resolve(new Response(JSON.stringify(status === 200 ? paths.length : { code: 'not-found', message: 'It is gone.' }), { status }))
  }) as unknown as typeof fetch
})

test('what was asked ahead is taken by whoever asks for it first, and asked for anew after that', async () => {
  askAhead('/runs/1')
  expect([await ask(z.number(), '/runs/2'), await ask(z.number(), '/runs/1'), await ask(z.number(), '/runs/1')]).toEqual([2, 1, 3])
  expect(paths).toEqual(['/api/v1/runs/1', '/api/v1/runs/2', '/api/v1/runs/1'])
})

test('a refusal that came ahead is told to whoever asks', async () => {
  status = 404
  askAhead('/runs/9')
  await expect(ask(z.number(), '/runs/9')).rejects.toThrow('It is gone.')
  expect(paths.length).toBe(1)
})

test('what changes something is never taken from what was asked ahead', async () => {
  askAhead('/runs/1')
  expect(await ask(z.number(), '/runs/1', { method: 'DELETE' })).toBe(2)
})
