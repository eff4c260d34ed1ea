import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lowered } from '@dime-gate/core/rule/lower'
import { TODAY } from '@dime-gate/core/testing/a-gate'
import { Decimal } from '@dime-gate/core/value/number'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { readConditional } from './gate-from-conditional'

const labelOf = (condition: string, x: string) => {
  const read = readConditional(`CASE WHEN ${condition} THEN 'yes' ELSE 'no' END`, 'sql', 'Read', TODAY)
  if ('problem' in read) return read.problem.message
  return textOfValue(decideRecord(lowered(read.gate), () => new Decimal(x), TODAY).outcomes[0] ?? null)
}

// What PostgreSQL answers to the same.
test.each([
  ['x::int > 5', '5.4', 'no'], ['x::int > 5', '5.5', 'yes'], ['CAST(x AS INTEGER) > 5', '5.4', 'no'], ['CAST(x AS INTEGER) < -5', '-5.5', 'yes'], ['CAST(x AS numeric(5, 1)) >= 5.1', '5.05', 'yes'], ['CAST(x AS numeric) > 5', '5.4', 'yes'],
  ['MOD(x, 3) = -1', '-7', 'yes'], ['x % 3 = 2', '-7', 'no'], ['MOD(x, -3) = 1', '7', 'yes'],
  ['GREATEST(x, NULL) > 5', '6', 'yes'], ['LEAST(x, NULL, 4) < 5', '6', 'yes'], ['x > LEAST(NULL, 3)', '4', 'yes'],
  ['COALESCE(x, 0) > 5', '6', 'yes'], ['NVL(x, 0) > 5', '6', 'yes'], ['IIF(x > 3, 1, 2) = 1', '4', 'yes'],
])('%s of %s: %s', (condition, x, expected) => expect(labelOf(condition, x)).toBe(expected))

test('a text that is cast to a date is a date, and compared as one', () => {
  const read = readConditional("CASE WHEN Due < CAST('2026-01-01' AS DATE) THEN 'late' WHEN Due < '2026-06-01'::date THEN 'soon' END", 'sql', 'Read', TODAY)
  expect('gate' in read && read.gate.inputs.map(({ name, type }) => [name, type])).toEqual([['Due', 'date']])
})

test.each(["CAST(x AS varchar(2)) = 'ab'", "5::text = '5'", "x = CAST('soon' AS DATE)", 'x::money > 5'])('%s is refused with the reason', (condition) => expect(labelOf(condition, '1')).toMatch(/cast|date/i))
