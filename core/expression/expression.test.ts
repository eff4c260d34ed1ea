import { parseDate } from '../value/temporal'
import { textOfValue, valueFromText } from '../value/value-text'
import type { Value } from '../value/value'
import { Decimal } from '../value/number'
import { checkCondition, checkExpression } from './check'
import { evaluate, type Note } from './evaluate'
import { parseExpression, parseUnaryTests } from './parse'
import { printExpression, printUnaryTests } from './print'
import { problemWords } from './problem-words'
import type { Type } from './type'

const number = (text: string) => new Decimal(text)
const FACTS: Record<string, [Type, Value]> = {
  'Trunk cm': ['number', number('35')],
  Height: ['number', number('12.5')],
  Trunk: ['number', number('0')],
  Lean: ['number', null],
  Species: ['text', 'Silver birch'],
  'Wind-borne': ['boolean', true],
  'Trunk and branch': ['number', number('7')],
  'Module 1': ['number', number('4')],
  'Module 10': ['number', number('5')],
  Modules: [{ list: 'number' }, [number('0.7'), number('0.8'), number('0.9')]],
  'Next due': ['date', valueFromText('2026-02-20', 'date')],
  Started: ['date', valueFromText('2018-03-12', 'date')],
}
const TYPES = new Map(Object.entries(FACTS).map(([name, [type]]) => [name, type]))
const AS_OF = parseDate('2026-03-02')!

function result(text: string): string {
  const parsed = parseExpression(text, TYPES.keys())
  if ('problem' in parsed) return `problem: ${parsed.problem.code}`
  const { problems } = checkExpression(parsed.tree, TYPES)
  if (problems.length > 0) return `problem: ${problems[0]!.code}`
  const value = evaluate(parsed.tree, { value: (name) => FACTS[name]?.[1] ?? null, today: AS_OF })
  return value === null ? 'null' : textOfValue(value)
}

describe('numbers are decimal', () => {
  test.each([
    ['0.1 + 0.2 = 0.3', 'true'],
    ['(0.7 + 0.8 + 0.9) / 3 >= 0.8', 'true'],
    ['mean(Modules) >= 0.8', 'true'],
    ['1 / 3', '0.3333333333333333333333333333333333'],
    ['2 ** 10', '1024'],
    ['-2 ** 2', '4'],
    ['2 ** 3 ** 2', '64'],
    ['7 - 2 - 1', '4'],
    ['1 + 2 * 3', '7'],
    ['-(3) - -4', '1'],
    ['12.5e-1', '1.25'],
    ['10 / 0', 'null'],
    ['10 ** 7000', 'null'],
    ['Height / Trunk', 'null'],
    ['Lean + 1', 'null'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('names may hold spaces and signs', () => {
  test.each([
    ['Trunk cm + 1', '36'],
    ['Trunk   cm+1', '36'],
    ['Trunk and branch', '7'],
    ['Height > 10 and Trunk = 0', 'true'],
    ['Wind-borne', 'true'],
    ['Module 10 - Module 1', '1'],
    ['Species = "Silver birch"', 'true'],
    ['count(Modules)', '3'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('what is unknown stays unknown', () => {
  test.each([
    ['Lean > 5', 'null'],
    ['Lean > 5 and false', 'false'],
    ['Lean > 5 or true', 'true'],
    ['Lean > 5 or false', 'null'],
    ['not(Lean > 5)', 'null'],
    ['Lean = null', 'true'],
    ['Lean != null', 'false'],
    ['Lean in [1..5]', 'null'],
    ['Lean between 1 and 5', 'null'],
    ['if Lean > 5 then "a" else "b"', 'b'],
    ['some x in [1, null, 3] satisfies x > 2', 'true'],
    ['every x in [1, null, 3] satisfies x > 0', 'null'],
    ['mean(Modules[item > 1])', 'null'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('ranges and lists', () => {
  test.each([
    ['Height in [12.5..20]', 'true'],
    ['Height in (12.5..20]', 'false'],
    ['Height in ]12.5..20]', 'false'],
    ['20 in [12.5..20[', 'false'],
    ['Height in (< 5, > 12)', 'true'],
    ['Height in < 5', 'false'],
    ['Height in [12..13] and Trunk = 0', 'true'],
    ['Height in (1, 12.5)', 'true'],
    ['Height in (12..13)', 'true'],
    ['Height in [1, 12.5]', 'true'],
    ['Height in ([1..2], [12..13])', 'true'],
    ['Height between 12.5 and 13 and true', 'true'],
    ['Species in ("Oak", "Silver birch")', 'true'],
    ['Species in (starts with(?, "Silver"))', 'true'],
    ['0.8 in Modules', 'true'],
    ['[1..5].start', '1'],
    ['[1, 2, 3][-1]', '3'],
    ['[1, 2, 3][item >= 2]', '[2, 3]'],
    ['for x in 1..3 return x * x', '[1, 4, 9]'],
    ['for x in [1, 2], y in [10, x] return x + y', '[11, 2, 12, 4]'],
    ['some x in Modules satisfies x < 0.75', 'true'],
    ['before(1, [2..5])', 'true'],
    ['meets([1..5], [5..8])', 'true'],
    ['meets([1..5), [5..8])', 'false'],
    ['overlaps([1..5], (5..8])', 'false'],
    ['includes([1..5], [2..5])', 'true'],
    ['during(5, [1..5))', 'false'],
    ['coincides([1..5], [1..5])', 'true'],
    ['after((< 3), 4)', 'false'],
    ['starts([1..3], [1..5])', 'true'],
    ['finished by([1..5], 5)', 'true'],
    ['5 instance of number', 'true'],
    ['@"2026-01-01" instance of date and time and true', 'false'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('dates and durations', () => {
  test.each([
    ['Next due < today()', 'true'],
    ['today() - Next due', 'P10D'],
    ['(today() - Next due).days', '10'],
    ['@"2026-01-31" + @"P1M"', '2026-02-28'],
    ['@"2024-01-31" + @"P1M"', '2024-02-29'],
    ['@"2024-02-29" + @"P1Y"', '2025-02-28'],
    ['@"2024-02-29" - @"P4Y"', '2020-02-29'],
    ['@"2026-03-31" - @"P1M"', '2026-02-28'],
    ['@"2025-12-31" + @"P2D"', '2026-01-02'],
    ['@"2026-03-01" - @"2026-02-01" = @"P28D"', 'true'],
    ['@"2026-03-02T23:30:00" + @"PT45M"', '2026-03-03T00:15:00'],
    ['@"23:30:00" + @"PT45M"', '00:15:00'],
    ['@"2026-03-02T10:00:00Z" = @"2026-03-02T12:00:00+02:00"', 'true'],
    ['@"2026-03-02T10:00:00Z" < @"2026-03-02T12:00:00"', 'null'],
    ['years and months duration(Started, today())', 'P7Y11M'],
    ['years and months duration(Started, today()).years', '7'],
    ['years and months duration(@"2026-02-28", @"2026-01-31")', 'P0M'],
    ['years and months duration(@"2026-03-31", @"2026-01-31")', '-P2M'],
    ['@"P1Y2M" + @"P10M"', 'P2Y'],
    ['@"P1D" * 1.5', 'P1DT12H'],
    ['@"P1D" / @"PT6H"', '4'],
    ['@"-PT90M"', '-PT1H30M'],
    ['date(2026, 2, 29)', 'null'],
    ['date("2024-02-29").day', '29'],
    ['@"2026-03-02".weekday', '1'],
    ['day of week(today())', 'Monday'],
    ['month of year(today())', 'March'],
    ['week of year(@"2021-01-03")', '53'],
    ['day of year(@"2024-12-31")', '366'],
    ['date and time(today(), @"10:30:00")', '2026-03-02T10:30:00'],
    ['time(10, 30, 0.5, @"PT2H")', '10:30:00.5+02:00'],
    ['now()', '2026-03-02T00:00:00'],
    ['@"-0044-03-15".year', '-44'],
    ['@"9999-12-31" + @"P1D"', '10000-01-01'],
    ['@"999999999-12-31" + @"P1D"', 'null'],
    ['is(@"10:00:00Z", @"10:00:00+00:00")', 'true'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('built-in functions', () => {
  test.each([
    ['round half up(2.5)', '3'],
    ['round half up(-2.5)', '-3'],
    ['round half down(2.5, 0)', '2'],
    ['decimal(2.5, 0)', '2'],
    ['decimal(1/3, 2)', '0.33'],
    ['round up(1.121, 2)', '1.13'],
    ['round down(-1.129, 2)', '-1.12'],
    ['floor(-1.5)', '-2'],
    ['ceiling(-1.5)', '-1'],
    ['round half up(1250, -2)', '1300'],
    ['modulo(-12, 5)', '3'],
    ['modulo(12, -5)', '-3'],
    ['modulo(5.25, 0)', 'null'],
    ['abs(-3)', '3'],
    ['abs(@"-P1D")', 'P1D'],
    ['sqrt(16)', '4'],
    ['sqrt(-1)', 'null'],
    ['log(0)', 'null'],
    ['exp(100000)', 'null'],
    ['odd(5)', 'true'],
    ['even(5)', 'false'],
    ['min(3, 1, 2)', '1'],
    ['max([3, 1, 2])', '3'],
    ['min("b", "a")', 'a'],
    ['sum([])', 'null'],
    ['sum(1, 2)', '3'],
    ['mean([])', 'null'],
    ['product(2, 3)', '6'],
    ['median(1, 4, 2)', '2'],
    ['median([1, 2])', '1.5'],
    ['stddev(2, 4, 7, 5)', '2.081665999466132735282297706979931'],
    ['mode(6, 1, 9, 6, 1)', '[1, 6]'],
    ['all([true, null])', 'null'],
    ['any([true, null])', 'true'],
    ['all([])', 'true'],
    ['count([])', '0'],
    ['sublist([1, 2, 3], 2)', '[2, 3]'],
    ['sublist([1, 2, 3], -2, 1)', '[2]'],
    ['append([1], 2, 3)', '[1, 2, 3]'],
    ['concatenate([1], [2])', '[1, 2]'],
    ['insert before([1, 3], 2, 2)', '[1, 2, 3]'],
    ['remove([1, 2], 1)', '[2]'],
    ['list replace([1, 2], 2, 5)', '[1, 5]'],
    ['reverse([1, 2])', '[2, 1]'],
    ['index of([1, 2, 1], 1)', '[1, 3]'],
    ['union([1, 2], [2, 3])', '[1, 2, 3]'],
    ['distinct values([1, 1.0, 2])', '[1, 2]'],
    ['flatten([[1, [2]], 3])', '[1, 2, 3]'],
    ['sort([3, 1, 2], function(a, b) a < b)', '[1, 2, 3]'],
    ['list contains([1, null], null)', 'true'],
    ['substring("foobar", 3)', 'obar'],
    ['substring("foobar", -2, 1)', 'a'],
    ['substring("foobar", 0)', 'null'],
    ['string length("\\U01F40Eab")', '3'],
    ['upper case("aBc4")', 'ABC4'],
    ['substring before("foobar", "bar")', 'foo'],
    ['substring after("foobar", "ob")', 'ar'],
    ['substring after("foobar", "x")', ''],
    ['contains(Species, "birch")', 'true'],
    ['starts with(Species, "Oak")', 'false'],
    ['matches("foobar", "^fo*b")', 'true'],
    ['matches("FOO", "foo", "i")', 'true'],
    ['replace("abracadabra", "bra", "*")', 'a*cada*'],
    ['replace("2026-03", "(\\\\d+)-(\\\\d+)", "$2/$1")', '03/2026'],
    ['split("a;b;;c", ";")', '["a", "b", "", "c"]'],
    ['string join(["a", null, "b"], "-")', 'a-b'],
    ['string(1.10)', '1.1'],
    ['string(@"2026-03-02")', '2026-03-02'],
    ['number("1 000,5", " ", ",")', '1000.5'],
    ['number("1.000")', '1'],
    ['number("n/a")', 'null'],
    ['contains(null, "a")', 'null'],
    ['substring(string: "abc", start position: 2)', 'bc'],
    ['not(true)', 'false'],
    ['range("[1..5)").end', '5'],
  ])('%s is %s', (text, expected) => expect(result(text)).toBe(expected))
})

describe('what is wrong is said before anything runs', () => {
  const wrong = (text: string) => {
    const parsed = parseExpression(text, TYPES.keys())
    const [first] = 'problem' in parsed ? [parsed.problem] : checkCondition(parsed.tree, TYPES).problems
    return first && [first.code, text.slice(first.from, first.to), ...first.hint.slice(0, 1)]
  }
  test.each([
    ['Specis = "Oak"', ['unknown-name', 'Specis', 'Species']],
    ['Trunk cmm > 5', ['unknown-name', 'Trunk cmm', 'Trunk cm']],
    ['Species > 30', ['type-clash', 'Species > 30']],
    ['Height > "tall"', ['type-clash', 'Height > "tall"']],
    ['Height + Species > 1', ['type-clash', 'Height + Species']],
    ['Height', ['not-a-condition', 'Height']],
    ['Height and true', ['not-a-condition', 'Height']],
    ['Height in ("a")', ['type-clash', '"a"']],
    ['Next due + 3 > today()', ['type-clash', 'Next due + 3']],
    ['maen(Modules) > 1', ['unknown-function', 'maen']],
    ['contains(Height, "a")', ['argument-type', 'Height', 'text']],
    ['contains("a")', ['argument-count', 'contains("a")', 'contains(string, match)']],
    ['contains(text: "a", match: "b")', ['argument-name', 'contains(text: "a", match: "b")', 'contains(string, match)']],
    ['Next due > @"2026-02-30"', ['bad-date', '@"2026-02-30"']],
    ['Next due > date("soon")', ['bad-date', '"soon"']],
    ['matches(Species, "(")', ['bad-pattern', '"("']],
    ['Next due.yaer = 2', ['unknown-property', 'Next due.yaer', 'year']],
    ['Height > ', ['unexpected-end', '', 'a value']],
    ['Height > 5 5', ['unexpected', '5', 'an operator']],
    ['(Height > 5', ['unexpected-end', '', ')']],
    ['Species = "Oak', ['unclosed-text', '"Oak']],
    ['Height > 5 %', ['unknown-character', '%']],
    ['"\\q" = Species', ['bad-escape', '\\q']],
    ['1 instance of tree', ['unknown-type', 'tree', 'number']],
  ])('%s: %j', (text, expected) => expect(wrong(text)).toEqual(expected))

  test('a name that several words run into is told whole', () => expect(wrong('Hieght of tree > 5')).toEqual(['unknown-name', 'Hieght of tree']))
  test.each([
    ['Specis = "Oak"', 'Nothing is named “Specis” here. Did you mean “Species”?'],
    ['Species > 30', 'A text and a number do not go together with “>”.'],
    ['Height', 'This is a number, not something true or false. Compare it with a value.'],
    ['contains(Height, "a")', '“contains” wants a text for “string”, not a number.'],
    ['Height > ', 'Something is missing at the end: a value.'],
    ['Height > 5 %', '“%” has no place in an expression. If it belongs to a name, give the input a name without it.'],
    ['Next due > @"2026-02-30"', '“2026-02-30” is no date, time or duration. Write a day as 2026-03-02, a duration as P7D.'],
  ])('%s is told in words', (text, words) => {
    const parsed = parseExpression(text, TYPES.keys())
    expect(problemWords('problem' in parsed ? parsed.problem : checkCondition(parsed.tree, TYPES).problems[0]!)).toBe(words)
  })
  test('nesting and length have an end', () => {
    expect(wrong('('.repeat(5000))?.[0]).toBe('too-deep')
    expect(wrong('-'.repeat(5000) + '1')?.[0]).toBe('too-deep')
    expect(wrong('1 in ('.repeat(199))?.[0]).toBe('unexpected-end')
    expect(wrong(' '.repeat(30_000))?.[0]).toBe('too-long')
  })
})

test('what cannot be computed is null, and says why', () => {
  const notes: Note[] = []
  const text = 'Height / Trunk > 3 or date(2026, 2, 30) = today()'
  const parsed = parseExpression(text, TYPES.keys()) as { tree: Parameters<typeof evaluate>[0] }
  expect(evaluate(parsed.tree, { value: (name) => FACTS[name]![1], today: AS_OF, note: (note) => notes.push(note) })).toBeNull()
  expect(notes.map(({ span, shortfall }) => [text.slice(span.from, span.to), shortfall])).toEqual([['Height / Trunk', 'division-by-zero'], ['date(2026, 2, 30)', 'no-result']])
})

test.each([
  'Height > 5 and (Lean < 3 or not(Wind-borne))', '(1 + 2) * 3 - -4 ** 2', '(if true then 1 else 2) + 1', 'Height in (< 5, [7..9], 12)', 'Height in [1..5)',
  'Height between 1 and 5 + 2', '(some x in Modules satisfies x > 1) and true', 'Modules[item > 0.7][1]', '-(-Height)', '2 ** -3', '(a > b) = c', '[1, [2..3], (< 4)]',
  'sort(Modules, function(a, b) a < b)', 'Next due.year >= 2026', '"a \\"quoted\\" \\\\ text\\n"', '@"P1D" instance of days and time duration', 'for x in 1..3 return x',
])('%s printed is read again as the same', (text) => {
  const names = [...TYPES.keys(), 'a', 'b', 'c']
  const parsed = parseExpression(text, names)
  if ('problem' in parsed) throw new Error(JSON.stringify(parsed.problem))
  const printed = printExpression(parsed.tree)
  expect(withoutSpans(parseExpression(printed, names))).toEqual(withoutSpans(parsed))
})

test.each([['-', '-'], ['< 5', '< 5'], ['[1..5), > 9', '[1..5), > 9'], ['not("oak","ash")', 'not("oak", "ash")'], ['5', '5'], ['? > 3 and ? < 5', '? > 3 and ? < 5'], ['= 3', '= 3']])('unary tests %s', (text, expected) => {
  const parsed = parseUnaryTests(text, [])
  expect('tree' in parsed && printUnaryTests(parsed.tree)).toBe(expected)
})

function withoutSpans(tree: unknown): unknown {
  return JSON.parse(JSON.stringify(tree, (key, value: unknown) => (key === 'span' ? undefined : value)))
}
