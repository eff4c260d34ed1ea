import fc from 'fast-check'
import { evaluate } from '../expression/evaluate'
import { parseExpression } from '../expression/parse'
import { hasBit } from '../table/bitmap'
import type { Cell } from '../table/cells'
import { type NumberColumn, numberColumn } from '../table/number-column'
import { valueAt } from '../table/table'
import { Decimal, isExactAsDouble } from '../value/number'
import { roundTo } from '../value/round'
import { isNumber } from '../value/value'
import { vectorOf } from './input-columns'
import { numberVector } from './number-vector'
import { errorAt, type VectorSources } from './vector'
import { roundedColumn } from './rounded-column'
import { crowded, TODAY } from '../testing/arbitrary-gate'

const cell: fc.Arbitrary<Cell> = fc.oneof({ weight: 6, arbitrary: crowded }, fc.constant(null), fc.constantFrom('1e-300', '1e200', '-3.3333333333333333333333'))
const columns = fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 40 })
const operand = fc.constantFrom('A', 'B', '3', '0.1', '0')
const expression = fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' },
    operand,
    fc.tuple(tie('node'), fc.constantFrom('+', '-', '*', '/'), tie('node')).map(([a, operator, b]) => `(${a} ${operator} ${b})`),
    tie('node').map((one) => `abs(${one})`),
    fc.constantFrom('mean(Set)', 'sum(Set) / count(Set)', 'median(Set)', 'max(Set)', 'count(Set[item >= 0.3])', 'sum(Set[item in (0.1, [12..70))])'),
    fc.tuple(fc.constantFrom('mean', 'sum', 'min', 'max', 'median'), tie('node'), tie('node')).map(([name, a, b]) => `${name}(${a}, ${b})`),
    tie('node').map((one) => `-(${one})`),
  ),
})).node

/** Columns by name, and those called Set as one set. */
function sourcesOf(columns: Record<string, NumberColumn>, set: readonly NumberColumn[] = []): VectorSources {
  const sources: VectorSources = {
    length: Object.values(columns)[0]!.length, today: TODAY, of: (node) => numberVector(node, sources),
    input: (name) => (columns[name] ? vectorOf(columns[name]) : null), members: (name) => (name === 'Set' ? set.map(vectorOf) : null),
  }
  return sources
}

test('no decimal result lies further from its double than the error says; what has none is not valid', () => {
  fc.assert(fc.property(expression, columns, (text, cells) => {
    const [a, b] = [numberColumn(cells.map(([one]) => one)), numberColumn(cells.map(([, one]) => one))]
    const parsed = parseExpression(text, ['A', 'B', 'Set'])
    if ('problem' in parsed) throw new Error(text)
    const vector = numberVector(parsed.tree, sourcesOf({ A: a, B: b }, [a, b]))
    // Filtered sets of decimals that doubles do not stand for are left to the decimals.
    if (!vector) return expect(a.exact.size + b.exact.size).toBeGreaterThan(0)
    cells.forEach((_, at) => {
      const value = evaluate(parsed.tree, { value: (name) => (name === 'Set' ? [a, b].map((one) => valueAt(one, at)).filter((one) => one !== null) : valueAt(name === 'A' ? a : b, at)), today: TODAY })
      const error = errorAt(vector, at)
      if (error === Infinity || Number.isNaN(error)) return
      expect(hasBit(vector.valid, at)).toBe(value !== null)
      if (isNumber(value)) expect(value.minus(vector.doubles[at]!.toPrecision(60)).abs().lte(new Decimal(error).times(1.0000001))).toBe(true)
    })
  }), { numRuns: 400 })
})

test('a column rounded is every value rounded', () => {
  const modes = { 'half up': Decimal.ROUND_HALF_UP, 'half even': Decimal.ROUND_HALF_EVEN, truncated: Decimal.ROUND_DOWN }
  const precision = fc.record({ kind: fc.constantFrom<keyof typeof modes>('half up', 'half even', 'truncated'), places: fc.integer({ min: -3, max: 16 }) })
  const near = fc.tuple(fc.integer({ min: -5000, max: 5000 }), fc.integer({ min: 0, max: 3 })).map(([digits, places]) => new Decimal(digits).div(2 * 10 ** places).toFixed())
  fc.assert(fc.property(precision, fc.array(fc.oneof(cell, near), { maxLength: 40 }), ({ kind, places }, cells) => {
    const column = numberColumn(cells)
    const exactly = (at: number) => {
      const value = valueAt(column, at)
      return isNumber(value) ? roundTo(value, places, modes[kind]) : null
    }
    const rounded = roundedColumn(vectorOf(column), { kind, places }, exactly)
    cells.forEach((_, at) => {
      const expected = exactly(at)
      expect(hasBit(rounded.valid, at)).toBe(expected !== null)
      if (expected) expect(String(valueAt(rounded, at))).toBe(String(new Decimal(expected.isZero() ? 0 : expected)))
      if (expected && !rounded.exact.has(at)) expect(isExactAsDouble(expected.toFixed())).toBe(true)
    })
  }), { numRuns: 300 })
})
