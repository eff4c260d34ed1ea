import { evaluate } from '@dime-gate/core/expression/evaluate'
import { parseExpression } from '@dime-gate/core/expression/parse'
import type { Type } from '@dime-gate/core/expression/type'
import { Decimal } from '@dime-gate/core/value/number'
import { parseDate } from '@dime-gate/core/value/temporal'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { GateError } from '@dime-gate/interchange/gate-error'
import { expressionToSql } from '@dime-gate/interchange/sql/expression-to-sql'
import { identifier, sql } from '@dime-gate/interchange/sql/sql-text'
import { temporaryClient } from '../testing/temporary-client'

jest.setTimeout(60_000)

const TODAY = parseDate('2026-03-02')!
const TYPES = new Map<string, Type>([['Height', 'number'], ['Trunk', 'number'], ['Species', 'text'], ['Due', 'date'], ['Dead', 'boolean'], ['Modules', { list: 'number' }]])
const SQL_TYPES = { Height: 'numeric', Trunk: 'numeric', Species: 'text', Due: 'date', Dead: 'boolean', M1: 'numeric', M2: 'numeric' }

/** Values at which roundings, signs, ends of months and blanks make a difference. */
const RECORDS: Record<keyof typeof SQL_TYPES, string | null>[] = [
  { Height: '11.6', Trunk: '28', Species: 'Sessile oak', Due: '2026-01-31', Dead: 'false', M1: '4', M2: '3.5' },
  { Height: '-2.5', Trunk: '0', Species: "O'Neill's \"elm\" \\ 🌳", Due: '2024-02-29', Dead: 'true', M1: null, M2: '1' },
  { Height: '0.125', Trunk: '3', Species: 'Ésche', Due: '2026-03-02', Dead: 'false', M1: null, M2: null },
  { Height: '12345678901234567890.5', Trunk: '7', Species: '', Due: '2018-12-25', Dead: 'true', M1: '0.1', M2: '0.2' },
  { Height: null, Trunk: '1', Species: null, Due: null, Dead: null, M1: '5', M2: null },
]

/** What comes to the same in the database and in the core, for every record. */
const EXPRESSIONS = [
  'Height', '-Height', 'Height + Trunk', 'Height - Trunk', 'Height * Trunk', 'Height / Trunk', 'Trunk / Height', '(Height + 1) / 3', 'Height - (Trunk - 1)', '-(Height - 1)', 'Height ** 2', 'Trunk ** 3', '2 * (Height + 3) - Trunk / 7',
  'abs(Height)', 'floor(Height)', 'ceiling(Height)', 'round half up(Height, 1)', 'round half up(Height, -1)', 'round half down(Height, 0)', 'round half down(Height, 2)', 'round up(Height, 1)', 'round down(Height, 2)', 'decimal(Height, 0)', 'decimal(Height, 2)', 'decimal(-Height, 2)', 'floor(Height, 1)', 'ceiling(Height, 2)', 'modulo(Trunk, 3)', 'modulo(-Trunk, 3)', 'modulo(Trunk, Height)',
  'sum(Modules)', 'mean(Modules)', 'min(Modules)', 'max(Modules)', 'count(Modules)', 'sum([Height, Trunk])', 'mean([Height, Trunk, 1])', 'min(Height, Trunk)', 'max([Height, Trunk])', 'count([Height, Trunk])',
  'Species', 'Species + "!"', 'string length(Species)', 'contains(Species, "oak")', 'contains(Species, "\'")', 'starts with(Species, "Sess")', 'starts with(Species, "")', 'ends with(Species, "e")', 'upper case(Species) = "SESSILE OAK"', 'Species = "O\'Neill\'s \\"elm\\" \\\\ 🌳"', 'Species < "T"', 'Species >= "É"', 'Species in ("Ésche", "", "elm")',
  '(today() - Due).days', '(Due - @"2026-01-01").days', 'Due.year', 'Due.month', 'Due.day', 'Due.weekday', 'Due < today()', 'Due = @"2024-02-29"', 'Due in [@"2024-01-01"..@"2026-01-31"]', 'Due + @"P1M" < @"2026-03-01"', 'Due - @"P1Y" >= @"2023-02-28"', 'Due + @"P7D" > today()', 'today() - Due > @"P30D"',
  'years and months duration(Due, today()).years', 'years and months duration(Due, today()).months', 'years and months duration(today(), Due).months',
  'Dead', 'not(Dead)', 'Dead and Height > 3', 'Dead or Height > 3', 'not(Dead or Height > 3)', 'Dead = false', 'Dead != true',
  'Height = null', 'Height != null', 'Height = 11.6', 'Height != 11.6', 'Height = Trunk', 'Height != Trunk', 'Height < Trunk', 'Height between 0 and 20', 'Height in (0.125, > 11)', 'Height in [0..Trunk)', 'not(Height in (0.125, 11.6))', 'if Height > 3 then "tall" else "low"', 'if Height > 3 then Height else Trunk * 2', 'if Dead then null else 1',
  '(Height / Trunk) * 3 > 1', '0.1 + 0.2 = 0.3', 'Height + 0.1 + 0.2 = 11.9',
]

const client = temporaryClient()

const names = { value: (name: string) => (name === 'Modules' ? [sql('"M1"'), sql('"M2"')] : sql(identifier(name))), types: TYPES, today: TODAY, extreme: () => null }
const treeOf = (text: string) => {
  const parsed = parseExpression(text, TYPES.keys())
  if ('problem' in parsed) throw new Error(text)
  return parsed.tree
}

function coreValue(text: string, record: (typeof RECORDS)[number]): string | null {
  const number = (value: string | null) => value === null ? null : new Decimal(value)
  const values: Record<string, Value> = {
    Height: number(record.Height), Trunk: number(record.Trunk), Species: record.Species, Due: record.Due === null ? null : parseDate(record.Due), Dead: record.Dead === null ? null : record.Dead === 'true',
    Modules: [number(record.M1), number(record.M2)].filter((value) => value !== null),
  }
  return plain(evaluate(treeOf(text), { value: (name) => values[name] ?? null, today: TODAY }))
}

function plain(value: Value): string | null {
  return value === null ? null : isNumber(value) ? new Decimal(value).toFixed() : textOfValue(value)
}

test.each(EXPRESSIONS)('%s', async (text) => {
  const columns = Object.entries(SQL_TYPES)
  const { rows } = await client.query({
    text: `select (${expressionToSql(treeOf(text), names, true).text})::text from unnest(${columns.map(([, type], at) => `$${at + 1}::${type}[]`).join(', ')}) with ordinality as t (${columns.map(([name]) => `"${name}"`).join(', ')}, n) order by n`,
    values: columns.map(([name]) => RECORDS.map((record) => record[name as keyof typeof SQL_TYPES])), rowMode: 'array',
  })
  const found = (rows as (string | null)[][]).map(([value]) => (value !== null && value !== undefined && /^-?\d[\d.]*$/.test(value) ? new Decimal(value).plus(0).toFixed() : value))
  expect(found).toEqual(RECORDS.map((record) => coreValue(text, record)))
})

test.each([
  ['matches(Species, "o.*")', 'The function “matches”'], ['median(Modules)', 'The function “median”'], ['Height ** Trunk', 'A power other than'], ['round half up(Height, Trunk)', 'Rounding to a place'],
  ['some m in Modules satisfies m > 3', '“quantified”'], ['Modules[1]', '“filter”'], ['time("10:00:00") < time("11:00:00") and Dead', 'true'], ['Due + (today() - Due) > Due', 'A date moved by'], ['sqrt(Height)', 'The function “sqrt”'],
])('%s is refused by what SQL cannot say, or told in advance', (text, what) => {
  try {
    expect(expressionToSql(treeOf(text), names, true).text.toLowerCase()).toContain('"dead"')
    expect(what).toBe('true')
  } catch (error) {
    if (!(error instanceof GateError)) throw error
    expect(error.message).toContain(what)
  }
})

test('names and texts stay names and texts, whatever they hold', async () => {
  const name = 'a"; drop table x; --'
  const text = `'); drop table x; --\\`
  const { rows } = await client.query(`select ${identifier(name)} = ${expressionToSql({ kind: 'text', text, span: { from: 0, to: 0 } }, names, true).text} as same from (select $1::text as ${identifier(name)}) as t`, [text])
  expect(rows).toEqual([{ same: true }])
  expect(() => identifier('a\0b')).toThrow(GateError)
})
