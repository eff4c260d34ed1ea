import { plainColumn } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { switchRule } from '@dime-gate/core/gate/edit-rules'
import { anInput, rulesGate, TODAY } from '@dime-gate/core/testing/a-gate'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { readDmn } from '@dime-gate/interchange/dmn/dmn'
import { plainWords } from './plain-words'
import { FORMATS, type Shown, shownAs } from './shown'

const INPUTS = [anInput('Decay', 'number', { unit: '%' }), anInput('Lean', 'number', { unit: '°', precision: { kind: 'half up', places: 1 } }), anInput('Due', 'date', { blank: 'pass' })]
const GATE = rulesGate(INPUTS, [['Rotten and Lean > 15', 'Fell'], ['Decay >= 25', 'Climb'], ['Due < today()', 'Look']], {
  name: 'Felling', otherwise: [{ is: 'Leave' }, { is: '0' }], conditions: [{ id: 'aaaaaaaa', name: 'Rotten', feel: 'Decay > 40' }],
  outcomes: [{ name: 'Label', type: 'text', labels: [] }, { name: 'Points', type: 'number', labels: [] }],
})
const FELLING: Gate = { ...GATE, rules: GATE.rules.map((rule, at) => ({ ...rule, entries: [rule.entries[0]!, at === 0 ? { is: '3' } : null], note: at === 0 ? 'hollow' : '' })) }
const shown = (gate: Gate, names: Record<string, string> = {}): Shown => ({
  question: { gate, feeding: [], inputs: Object.fromEntries(gate.inputs.map(({ name }, at) => [name, { column: at + 1 }])) },
  table: { name: 'Street trees', columns: gate.inputs.map(({ name }, at) => plainColumn(at + 1, names[name] ?? name)) }, today: TODAY, call: { id: 1, version: 2, origin: '' },
})
const text = (format: Parameters<typeof shownAs>[0], of: Shown, outcome = 'Label') => {
  const found = shownAs(format, of, outcome)
  if ('trouble' in found) throw new Error(found.trouble)
  return found.text
}

test('in plain words a reader learns what counts, in which order, and what is missing', () => {
  expect(text('words', shown(FELLING))).toBe(`Felling

Each record gets a label by what is known of it: Decay (%), Lean (°), rounded to 1 place and Due.

The rules are gone through from the top; the first that holds decides:
1. Fell, Points 3: Rotten holds and Lean above 15°. (hollow)
2. Climb: Decay at least 25\u00a0%.
3. Look: Due before the as-of date.
Otherwise: Leave, Points 0.

“Rotten” holds where Decay above 40\u00a0%.

A record of which a value is missing that could change its label gets none; it waits until the value is known. Only where Due is missing it does not wait: what asks for it counts as not true.

The as-of date is the day that the result is made for, whatever day it is read on.
`)
})

test('rules that are off are not told', () => expect(plainWords(switchRule(FELLING as typeof GATE, 1))).not.toContain('Climb'))

test('SQL is a whole question on the table in hand, by its own names', () => {
  const written = text('sql', shown(FELLING, { Decay: 'Rot %' }), 'Points')
  expect(written).toMatch(/^SELECT \*,\n {2}CASE/)
  expect(written).toContain('"Rot %" > 40')
  expect(written).toMatch(/AS "Points"\nFROM "Street trees"\n$/)
})

test('what is taken as DMN, or as JSON, is the same gate when it is brought in', () => {
  const shapes = { gate: (data: unknown) => gateDocumentSchema.safeParse(data).data ?? null, conditions: () => null }
  expect(readDmn(text('dmn', shown(FELLING)), shapes).gates).toEqual([FELLING])
  expect(JSON.parse(text('json', shown(FELLING)))).toEqual(FELLING)
})

test('gates that feed it go along; where they look at another column under one name that is said', () => {
  const band = { ...rulesGate([anInput('Decay', 'number')], [['Decay > 40', 'Failing']]), name: 'Band' }
  const fed = rulesGate([anInput('Level', 'text', { source: { kind: 'gate', gate: 'Band', outcome: null } }), anInput('Decay', 'number')], [['Level = "Failing"', 'Fell']], { name: 'Fed' })
  const of = shown(fed)
  const feeding = (column: number) => ({ ...of, question: { ...of.question, feeding: [{ gate: band, inputs: { Decay: { column } } }] } })
  for (const { name } of FORMATS) expect([name, text(name, feeding(2)).length > 20]).toEqual([name, true])
  expect(text('words', feeding(2)).indexOf('Fed')).toBeLessThan(text('words', feeding(2)).indexOf('Band\n'))
  expect(shownAs('sql', feeding(1), 'Label')).toEqual({ trouble: expect.stringContaining('“Decay”') })
})

test('what a language cannot say is said', () => {
  expect(shownAs('feel', shown({ ...FELLING, hitPolicy: 'unique' } as Gate), 'Label')).toEqual({ trouble: expect.stringContaining('DMN') })
})
