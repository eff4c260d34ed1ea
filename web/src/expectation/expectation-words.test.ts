import type { Expectation } from '@dime-gate/contract/expectation'
import { plainColumn } from '@dime-gate/contract/table'
import { boundWords, cameTo, expectationWords } from './expectation-words'

const COLUMNS = [plainColumn(1, 'Tree no', { type: 'text' }), plainColumn(2, 'Ward', { type: 'text' }), plainColumn(3, 'Due', { type: 'date' })]
const held: Expectation = { kind: 'count', of: { kind: 'status', status: 'held' }, bounds: { as: 'count', low: null, high: '40' }, within: null }
const fell: Expectation = { kind: 'count', of: { kind: 'label', label: 'Fell now' }, bounds: { as: 'share', low: '2.5', high: '5' }, within: { column: 2, value: 'Abbey' } }
const tree: Expectation = { kind: 'record', who: [{ column: 1, value: '0871' }], label: 'Ask the surveyor' }
const came = (expectation: Expectation, got: number, of: number, off: number, label: string | null = null, problem: string | null = null) => cameTo({ expectation, got, of, off, label, problem })

test('what is expected is said in one line', () => {
  expect([held, fell, tree, { ...tree, label: null }].map((one) => expectationWords(one, COLUMNS))).toEqual([
    'held at most 40', 'Fell now from 2.5 to 5\u00a0%, in Ward Abbey', 'Tree no 0871 is Ask the surveyor', 'Tree no 0871 is without a label',
  ])
  expect(expectationWords({ ...fell, within: { column: 3, value: '2026-03-02' } }, COLUMNS)).toMatch(/in Due 2 Mar 2026$/)
  expect(expectationWords({ ...fell, within: { column: 9, value: null } }, COLUMNS)).toMatch(/in a column that is gone blank$/)
})

test('bounds are told by their ends, and nought as none', () => {
  expect([{ as: 'count', low: '12', high: '12' }, { as: 'count', low: '3', high: null }, { as: 'share', low: null, high: '20' }, { as: 'count', low: null, high: '0' }, { as: 'count', low: '0', high: '0' }] .map((one) => boundWords(one as Parameters<typeof boundWords>[0])))
    .toEqual(['exactly 12', 'at least 3', 'at most 20\u00a0%', 'none', 'none'])
})

test('what came is told with how far it is off', () => {
  expect([came(held, 38, 1240, 0), came(held, 44, 1240, 4), came(fell, 9, 300, 0), came(fell, 20, 300, 5), came(fell, 6, 300, -1)]).toEqual(['38', '44, 4 too many', '3.0 %', '6.7 %, 5 records too many', '2.0 %, 1 record too few'])
  expect([came(tree, 1, 1, 0), came(tree, 0, 1, -1, 'Leave'), came(tree, 0, 1, -1), came(tree, 0, 0, -1)]).toEqual(['it is', 'Leave', 'no label', 'not in the table'])
  expect(came(fell, 0, 0, 0, null, 'A column is gone.')).toBe('A column is gone.')
})
