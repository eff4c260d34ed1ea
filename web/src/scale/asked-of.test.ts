import { plainScale, givenNumber } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import { outlinePath } from './line-geometry'
import { askedOf } from './asked-of'

const gate = plainScale('Decay band', givenNumber('Decay', '%'), [], [band('all')])
const column = (id: number, name: string) => ({ id, name, type: 'number' }) as never
const table = (...columns: never[]) => ({ columns, sets: [] })

test('another table is asked as the gate is bound there, else by the names of its columns', () => {
  expect(askedOf(gate, table(column(3, 'decay'), column(4, 'Rot')), undefined, '2026-03-02')).toMatchObject({ asked: { inputs: { Decay: { column: 3 } } } })
  expect(askedOf(gate, table(column(3, 'decay'), column(4, 'Rot')), { Decay: { column: 4 } }, '2026-03-02')).toMatchObject({ asked: { inputs: { Decay: { column: 4 } } } })
  expect(askedOf(gate, table(column(4, 'Rot')), undefined, '2026-03-02')).toEqual({ missing: ['Decay'] })
})

test('what other gates give can be asked of no other table', () => {
  const fed = { ...gate, inputs: [{ ...gate.inputs[0]!, source: { kind: 'gate' as const, gate: 'Other', outcome: null } }] }
  expect(askedOf(fed, table(column(3, 'Decay')), undefined, '2026-03-02')).toEqual({ missing: ['Decay'] })
})

test('equal parts of the records stand equally high, however many there are', () => {
  const spread = (bins: number[], from = 0, to = 4) => ({ from, to, bins, below: 0, above: 0 })
  const at = (value: number) => value * 10
  // A tenth of the records, spread alike: the outline lies on the bars.
  expect(outlinePath(spread([10, 20, 10, 0]), spread([100, 200, 100, 0]), at, 100, 80)).toBe('M0.0 100V60.0H10.0V20.0H20.0V60.0H30.0V100.0H40.0V100')
  // Half as wide bins with the same density are as high; what is denser than anything beneath ends at the top.
  expect(outlinePath(spread([1, 1, 2, 0], 0, 2), spread([1, 1, 0, 0]), at, 100, 80)).toBe('M0.0 100V20.0H5.0V20.0H10.0V20.0H15.0V100.0H20.0V100')
})
