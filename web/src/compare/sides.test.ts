import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { columnOf } from '@dime-gate/core/table/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { type Asked, Session } from '../records/session'
import { type Side, Sides } from './sides'

const COLUMNS = new Map([[1, columnOf('number', ['50', '20', '3', null, '41'])], [2, columnOf('text', ['Fell', 'watch', 'Sound', null, 'Watch'])]])
const session = new Session(({ id }) => Promise.resolve({ records: Int32Array.from([11, 12, 13, 14, 15]), column: COLUMNS.get(id)! }))
beforeAll(() => session.open([{ id: 1, kind: 'number', path: '' }, { id: 2, kind: 'text', path: '' }]))

const gate = (at: number): Gate => rulesGate([anInput('Decay', 'number')], [[`Decay >= ${at}`, 'Fell'], ['Decay >= 12', 'Watch']], { otherwise: [{ is: 'Sound' }] })
const side = (of: Gate): Side => ({ kind: 'gate', asked: { gate: of, inputs: { Decay: { column: 1 } }, feeding: [], asOf: '2026-03-02' } satisfies Asked })
const HAND: Side = { kind: 'column', column: 2 }

test('two states of a gate: what differs is counted, listed, and told by its rule on either side', () => {
  const sides = new Sides()
  expect(sides.compare(session, [side(gate(40)), side(gate(45))])).toMatchObject({ compared: { records: 5, agreed: 4, written: 0, moves: [{ from: { label: 'Fell' }, to: { label: 'Watch' }, records: 1 }] } })
  expect(sides.list(null)).toBe(1)
  expect(sides.window(0, 1)).toMatchObject([{ record: 15, label: 'Watch', computed: ['Fell'] }])
  expect(sides.sidesOf(15).map(({ rule }) => rule)).toEqual([0, 1])
})

test('a gate beside a column entered by hand: what is only written otherwise is no difference in substance', () => {
  const sides = new Sides()
  expect(sides.compare(session, [side(gate(40)), HAND])).toMatchObject({ compared: { agreed: 2, written: 1, writings: [{ to: { label: 'watch' } }] } })
  // The held record has no label by hand, and the last one another.
  expect(sides.list(null)).toBe(2)
  expect(sides.window(0, 2).map(({ record, status, computed }) => [record, status, computed])).toEqual([[14, 'unplaced', ['held']], [15, 'labelled', ['Fell']]])
  expect(sides.list({ from: 'label Watch', to: 'label watch' })).toBe(1)
  expect(sides.sidesOf(13)).toMatchObject([{ isOtherwise: true, rule: null }, { rule: null, landing: { label: 'Sound' } }])
})

test('a gate that cannot decide says so, and which side it is', () => {
  const broken = rulesGate([anInput('Decay', 'number')], [['Decai > 1', 'x']])
  expect(new Sides().compare(session, [HAND, side(broken)])).toMatchObject({ side: 1, problems: [{ code: 'expression' }] })
})
