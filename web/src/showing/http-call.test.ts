import { decideRequestSchema } from '@dime-gate/contract/decide'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { execFileSync } from 'node:child_process'
import { httpCall } from './http-call'

const INPUTS = [anInput("Warden's mark", 'number'), anInput('Due', 'date'), anInput('Modules', 'number', { isSet: true })]
const gate = rulesGate(INPUTS, [["Due > date(\"2026-01-01\")", "it's late"]])

/** What a shell makes of the line, word by word. */
const wordsOf = (line: string) => execFileSync('sh', ['-c', `for word in ${line.trim()}; do printf '%s\\0' "$word"; done`]).toString().split('\0').slice(0, -1)

test('a shell reads the line as one call, whose body the server takes', () => {
  const words = wordsOf(httpCall({ gate, feeding: [] }, 7, 3, 'http://127.0.0.1:4571'))
  expect(words.slice(0, 3)).toEqual(['curl', '-s', 'http://127.0.0.1:4571/api/v1/gates/7/versions/3/decide'])
  const body = decideRequestSchema.parse(JSON.parse(words.at(-1)!))
  expect(body.records).toEqual([{ "Warden's mark": 1, Due: '2026-03-02', Modules: [1] }])
})

test('an example that is kept with the gate is the record', () => {
  const kept = { ...gate, examples: [{ values: { "Warden's mark": '4.50', Modules: '3;;4' }, label: null }] }
  const body = decideRequestSchema.parse(JSON.parse(wordsOf(httpCall({ gate: kept, feeding: [] }, 1, 1, '')).at(-1)!))
  expect(body.records).toEqual([{ "Warden's mark": '4.50', Due: null, Modules: [3, null, 4] }])
})
