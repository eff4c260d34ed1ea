import { isOpen } from '../expression/open'
import { Decimal } from '../value/number'
import type { Value } from '../value/value'
import { textOfValue } from '../value/value-text'
import type { HitPolicy } from '../gate/document'
import { areSameHit, type Hit, hit, type Hittable } from './hit-policy'

const number = (text: string) => new Decimal(text)
const look = { colour: '#112233', mark: 'disc' as const, rank: null }
const OUTCOMES: Value[][] = [
  ['low', number('1')],
  ['high', number('3')],
  ['low', number('1')],
  ['high', number('2')],
  [null, null],
]
const gate = (hitPolicy: HitPolicy, otherwise: Value[] | null = null): Hittable => ({
  hitPolicy,
  columns: [
    { name: 'Label', type: 'text', labels: ['high', 'low'].map((value) => ({ value, ...look })) },
    { name: 'Points', type: 'number', labels: ['3', '2'].map((value) => ({ value, ...look })) },
  ],
  outcomesOf: (rule) => OUTCOMES[rule]!,
  otherwise: () => otherwise,
})
const told = ({ status, rule, outcomes }: Hit) => [status, rule, ...outcomes.map((value) => (isOpen(value) ? 'open' : textOfValue(value)))]

test.each<[HitPolicy, number[], unknown[]]>([
  ['first', [1, 2], ['labelled', 1, 'high', '3']],
  ['unique', [0], ['labelled', 0, 'low', '1']],
  ['unique', [0, 2], ['labelled', 0, 'low', '1']],
  ['unique', [0, 1], ['contested', -1]],
  ['any', [1, 3], ['contested', -1]],
  ['priority', [0, 2, 3], ['labelled', 3, 'high', '2']],
  ['priority', [0, 3, 1], ['labelled', 1, 'high', '3']],
  ['priority', [4, 0], ['labelled', 0, 'low', '1']],
  ['rule order', [0, 1], ['labelled', 0, '["low", "high"]', '[1, 3]']],
  ['output order', [0, 3, 1], ['labelled', 0, '["high", "high", "low"]', '[3, 2, 1]']],
  ['collect', [0, 2], ['labelled', 0, '["low", "low"]', '[1, 1]']],
  ['collect count', [0, 1, 2], ['labelled', 0, '3', '3']],
])('%s of the rules %j', (policy, rules, expected) => expect(told(hit(gate(policy), rules))).toEqual(expected))

test('sums and extremes are of numbers; with anything else in it there is none', () => {
  const points = (hitPolicy: HitPolicy): Hittable => ({ ...gate(hitPolicy), columns: gate(hitPolicy).columns.slice(1), outcomesOf: (rule) => OUTCOMES[rule]!.slice(1) })
  const result = (policy: HitPolicy, rules: number[]) => textOfValue(hit(points(policy), rules).outcomes[0] as Value)
  expect([result('collect sum', [0, 1, 2]), result('collect min', [1, 3]), result('collect max', [0, 1, 3])]).toEqual(['5', '2', '3'])
  expect(result('collect sum', [0, 4])).toBe('')
})

test('without a true rule it is otherwise, or unplaced', () => {
  expect(told(hit(gate('first', ['rest', null]), []))).toEqual(['otherwise', -1, 'rest', ''])
  expect(told(hit(gate('collect'), []))).toEqual(['unplaced', -1])
})

test('what gives the same is the same, whoever gives it; nothing is like nothing alone', () => {
  const [low, alsoLow, high] = [0, 2, 1].map((rule) => hit(gate('first'), [rule])) as [Hit, Hit, Hit]
  const unplaced = hit(gate('first'), [])
  expect([areSameHit(low, alsoLow), areSameHit(low, high), areSameHit(unplaced, unplaced), areSameHit(unplaced, low)]).toEqual([true, false, true, false])
  expect(areSameHit(low, hit(gate('first', ['low', number('1.0')]), []))).toBe(true)
})
