import type { GridGate } from '@dime-gate/core/gate/document'
import { anInput } from '@dime-gate/core/testing/a-gate'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import { useSide } from './useSide'

const grid = (lines: string[][], folds = false): GridGate => ({
  schema: 1, form: 'grid', name: 'Hazard', inputs: [anInput('Decay', 'number'), anInput('Stands by', 'text')], outcomes: [{ name: 'Label', type: 'text', labels: [] }], otherwise: null, cells: [],
  down: { kind: 'scale', on: 'Decay', cuts: [{ at: '25', owner: 'above' }], floor: null, ceiling: null }, across: { kind: 'list', on: 'Stands by', lines, folds },
})

function used(side: 'down' | 'across', gate: GridGate) {
  const asked: string[] = []
  const shown = shallowRef(gate)
  const [tick, renewed] = [ref(0), ref(0)]
  const session = {
    spread: async (on: string) => (asked.push(`spread of ${on}`), { histogram: null }),
    values: async (on: string) => (asked.push(`values of ${on}`), { values: ['road', 'Verge', 'school'].map((text) => ({ text, records: 3 })), others: 0 }),
  } as never
  const scope = effectScope()
  const made = scope.run(() => useSide(() => shown.value, side, session, () => tick.value, () => renewed.value))!
  return { ...made, asked, shown, tick, renewed }
}
const settled = async () => {
  for (let turn = 0; turn < 4; turn++) await nextTick()
}

test('nothing is asked before anything is decided; then once, however its cuts move', async () => {
  const { asked, tick, shown, renewed } = used('down', grid([['road']]))
  await settled()
  expect(asked).toEqual([])
  tick.value = 1
  await settled()
  shown.value = { ...shown.value, down: { kind: 'scale', on: 'Decay', cuts: [{ at: '30', owner: 'above' }], floor: null, ceiling: null } }
  tick.value = 2
  await settled()
  expect(asked).toEqual(['spread of Decay'])
  renewed.value = 1
  await settled()
  expect(asked).toEqual(['spread of Decay', 'spread of Decay'])
})

test('values that stand in no line are offered; letters of either case are one where the side folds', async () => {
  const { missing, tick, shown } = used('across', grid([['road'], ['verge']]))
  tick.value = 1
  await settled()
  expect(missing.value.map(({ text }) => text)).toEqual(['Verge', 'school'])
  shown.value = grid([['road'], ['verge']], true)
  expect(missing.value.map(({ text }) => text)).toEqual(['school'])
})
