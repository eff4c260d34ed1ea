import { plainColumn, type Table } from '@dime-gate/contract/table'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import type { Tray } from '@dime-gate/core/result/tray'
import { createPinia, setActivePinia } from 'pinia'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import type { Asked } from '../records/session'
import { useNotices } from '../shared/notices'
import { aServer, Refusal } from '../testing/a-server'
import { useTrial } from './useTrial'

const TABLE = { id: 4, name: 'Trees', columns: [{ ...plainColumn(10, 'Tree'), isIdentity: true }, plainColumn(11, 'Decay')], version: 3 } as unknown as Table
const gate = rulesGate([anInput('Decay', 'number')], [['Decay >= 40', 'Fell'], ['Decay >= 12', 'Look']], { examples: [{ values: { Decay: '50' }, label: 'Fell' }, { values: { Decay: '20' }, label: 'Fell' }] })
const QUESTION: Asked = { gate, feeding: [], inputs: { Decay: { column: 11 } }, asOf: '2026-03-02', library: { conditions: [], gates: [] } } as unknown as Asked

/** @param first by tray the first record in it */
function used(first: (tray: Tray) => number | null, made: Record<string, string> | null = null) {
  setActivePinia(createPinia())
  const trays: Tray[] = []
  const scope = effectScope()
  const tried = shallowRef<Asked | null>(QUESTION)
  const trial = scope.run(() => useTrial(tried, ref(TABLE), async (tray) => (trays.push(tray), first(tray)), async () => made))!
  return { ...trial, tried, trays, notices: useNotices() }
}

test('a record that a rule takes is typed as it stands, told by who it is', async () => {
  const asked = aServer(({ body }) => [{ record: (body as { records: number[] }).records[0], cells: [['T7', null], ['45', null]] }])
  const { takeForRule, typed, from, trays } = used(() => 7)
  await takeForRule(0)
  expect([typed.value, from.value, trays]).toEqual([{ Decay: '45' }, 'T7', [{ kind: 'rule', rule: 0 }]])
  expect(asked).toEqual([{ method: 'POST', path: '/tables/4/records', body: { records: [7], version: 3, asOf: '2026-03-02' } }])
})

test('where the table has none, values are made for the rule; where none can be, that is told', async () => {
  aServer(() => [])
  const withMade = used(() => null, { Decay: '41' })
  await withMade.takeForRule(0)
  expect([withMade.typed.value, withMade.from.value]).toEqual([{ Decay: '41' }, null])
  const without = used(() => null)
  await without.takeForRule(1)
  expect([without.typed.value, without.notices.current!.text]).toEqual([{}, 'No record is known that gets to rule 2.'])
  await without.takeForRule('rest')
  expect([without.trays.at(-1), without.notices.current!.text]).toEqual([{ kind: 'unplaced' }, 'Every record of this table is taken by a rule.'])
})

test('what goes wrong is told, and what was typed stays', async () => {
  aServer(() => new Refusal(409, 'stale', 'The table has moved on.'))
  const { takeForRule, typed, notices } = used(() => 7)
  typed.value = { Decay: '3' }
  await takeForRule(0)
  expect([typed.value, notices.current]).toEqual([{ Decay: '3' }, { text: 'The table has moved on.', problem: true }])
})

test('rules that take what an example says should go elsewhere are told; an example is typed as it is kept', () => {
  const { broken, examples, takeExample, typed, from } = used(() => null)
  expect([examples.value.map(({ isMet }) => isMet), [...broken.value]]).toEqual([[true, false], [1]])
  takeExample(gate.examples![1]!)
  expect([typed.value, from.value]).toEqual([{ Decay: '20' }, null])
})

test('the coin goes once nothing is typed any more', async () => {
  const { coin, typed } = used(() => null)
  typed.value = { Decay: '3' }
  coin.value = 0
  await nextTick()
  expect(coin.value).toBe(0)
  typed.value = { Decay: '' }
  await nextTick()
  expect(coin.value).toBeNull()
})
