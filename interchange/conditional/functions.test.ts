import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { lowered } from '@dime-gate/core/rule/lower'
import { givenBy, TODAY } from '@dime-gate/core/testing/a-gate'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { type ConditionalLanguage, readConditional } from './gate-from-conditional'

const RECORD: Record<string, string> = { n: '-7.25', m: '3', s: 'Sessile oak', d: '2024-02-29', e: '2026-03-02', t: 'true' }

/** What the expression comes to for the record, as the result of a branch that every record takes. */
function worth(expression: string, language: ConditionalLanguage): string {
  const text = { sql: `CASE WHEN t THEN ${expression} END`, openformula: `=IF(t; ${expression}; "")`, feel: `if t then ${expression} else null` }[language]
  const read = readConditional(text, language, 'Worth', TODAY)
  if ('problem' in read) return `problem: ${read.problem.message}`
  return textOfValue(decideRecord(lowered(read.gate), givenBy(read.gate.inputs, RECORD), TODAY).outcomes[0] ?? null)
}

test.each([
  ['ABS(n)', '7.25'], ['MOD(8, m)', '2'], ['8 % m', '2'], ['MOD(n * 4, m)', '-2'], ['n * 4 % m', '-2'], ['8 % -3', '2'], ['n::int', '-7'], ['CAST(n AS INTEGER)', '-7'], ['CAST(n AS numeric(10, 1))', '-7.3'], ['GREATEST(m, NULL)', '3'], ['NVL(NULLIF(m, 3), 9)', '9'], ['IIF(m > 2, 5, 6)', '5'], ['ROUND(n * 1, 1)', '-7.3'], ['ROUND(n * 1)', '-7'], ['TRUNC(n * 1, 1)', '-7.2'], ['FLOOR(n * 1)', '-8'], ['CEILING(n * 1)', '-7'], ['GREATEST(n * 1, m)', '3'], ['LEAST(n * 1, m)', '-7.25'],
  ['UPPER(s)', 'SESSILE OAK'], ['LOWER(s)', 'sessile oak'], ['CHAR_LENGTH(s)', '11'], ['LENGTH(s)', '11'], ["s || '!'", 'Sessile oak!'], ["LEFT(s, 3)", 'Ses'], ["RIGHT(s, 3)", 'oak'],
  ["CASE WHEN s LIKE 'Sess%' THEN 1 ELSE 2 END", '1'], ["CASE WHEN s LIKE '%elm%' THEN 1 ELSE 2 END", '2'], ["CASE WHEN s LIKE '%oak' THEN 1 END", '1'], ["CASE WHEN s NOT LIKE 'Sessile oak' THEN 1 ELSE 2 END", '2'], ["CASE WHEN POSITION('oak' IN s) > 0 THEN 1 END", '1'],
  ['COALESCE(NULLIF(m, 3), 9)', '9'], ['COALESCE(m, 9)', '3'], ['CAST(m AS numeric(10, 2)) + 1', '4'], ['m::numeric + 1', '4'], ['EXTRACT(YEAR FROM d)', '2024'], ['EXTRACT(ISODOW FROM d)', '4'],
  ["CASE WHEN s ILIKE '%OAK' THEN 1 END", '1'], ["CASE WHEN s ILIKE 'SESSILE oak' THEN 1 END", '1'], ["CASE WHEN s NOT ILIKE 'elm%' THEN 1 END", '1'], ["CASE WHEN s LIKE 'S_ss%k' THEN 1 END", '1'], ["CASE WHEN s LIKE 'S_s%' THEN 1 ELSE 2 END", '1'], ["CASE WHEN s LIKE '_oak' THEN 1 ELSE 2 END", '2'], ["CASE WHEN s LIKE 'S.%e' THEN 1 ELSE 2 END", '2'],
  ["SUBSTRING(s FROM 9 FOR 3)", 'oak'], ["SUBSTRING(s, 9)", 'oak'], ["SUBSTR(s, 1, 3)", 'Ses'], ["CASE WHEN d < DATE '2024-03-31' - INTERVAL '30 days' THEN 1 ELSE 2 END", '1'], ["CASE WHEN d + INTERVAL '2' YEAR + INTERVAL '1 week' > e THEN 1 ELSE 2 END", '1'], ["CASE WHEN d + INTERVAL '-1' MONTH = DATE '2024-01-29' THEN 1 END", '1'],
  ["CASE WHEN d < DATE '2024-03-01' THEN e - d END", '732'], ["CASE WHEN d + 1 = DATE '2024-03-01' THEN 'next' END", 'next'], ['CASE m WHEN 1 THEN 10 WHEN 3 THEN 30 END', '30'], ['CASE WHEN m NOT BETWEEN 4 AND 5 THEN 1 END', '1'], ['CASE WHEN m NOT IN (1, 2) THEN 1 END', '1'], ['- m * - 2', '6'], ['2 ^ m', '8'], ['m / NULLIF(0, 0)', ''],
  ['ABS(n, m)', 'problem: ABS takes 1 value, not 2.'], ['SUBSTR(s, 0)', 'problem: SUBSTRING is only understood from a plain number from 1 on, as in SUBSTRING(x FROM 2 FOR 3).'], ["CASE WHEN d < DATE '2024-03-01' - INTERVAL '3 moons' THEN 1 END", "problem: An interval is only understood as in INTERVAL '30' DAY, in days, weeks, months or years."], ["CASE WHEN s LIKE 'a!_' ESCAPE '!' THEN 1 END", 'problem: A pattern is only understood as a text in quotes, without ESCAPE.'], ["POSITION('a' IN s)", 'problem: POSITION is only understood when it is compared as in POSITION(a IN b) > 0.'], ["CASE WHEN d < DATE '2024-02-30' THEN 1 END", 'problem: “2024-02-30” is no date, as in 2026-03-02.'],
])('SQL: %s', (expression, result) => expect(worth(expression, 'sql')).toBe(result))

test.each([
  ['ABS(n)', '7.25'], ['MOD(8; m)', '2'], ['ROUND(n; 1)', '-7.3'], ['ROUNDUP(n; 1)', '-7.3'], ['ROUNDDOWN(n; 1)', '-7.2'], ['TRUNC(n)', '-7'], ['INT(n)', '-8'], ['MAX(n; m)', '3'], ['SUM(n; m; 1)', '-3.25'], ['AVERAGE(n; m)', '-2.125'], ['MEDIAN(n; m; 5)', '3'], ['COUNT(n; m)', '2'], ['m ^ 2', '9'], ['50%', '0.5'], ['-m', '-3'], ['m + n * 2', '-11.5'], ['(m + n) * 2', '-8.5'],
  ['UPPER(s)', 'SESSILE OAK'], ['LEN(s)', '11'], ['s & "!"', 'Sessile oak!'], ['LEFT(s; 3)', 'Ses'], ['TRIM(s)', 'Sessile oak'],
  ['IF(EXACT(s; "sessile oak"); 1; 2)', '2'], ['IF(ISNUMBER(FIND("oak"; s)); 1; 2)', '1'], ['IF(NOT(ISBLANK(m)); 1; 2)', '1'], ['IF(AND(ISTEXT(s); s <> "x"); 1; 2)', '1'], ['IF(AND(m > 2; m < 4; TRUE()); 1; 2)', '1'], ['IF(OR(m > 4; FALSE); 1; 2)', '2'],
  ['IFS(m > 4; "a"; m > 2; "b")', 'b'], ['SWITCH(m; 1; "a"; 3; "b"; "c")', 'b'], ['SWITCH(m; 1; "a"; 2; "b"; "c")', 'c'], ['CHOOSE(m; "a"; "b"; "c")', 'c'], ['IFERROR(m / 0; 5)', '5'], ['IFERROR(m / 2; 5)', '1.5'], ['IF(IFERROR(m / 0 > 1; TRUE()); 1; 2)', '1'],
  ['IFERROR(IF(m / (n - n) > 1; 2; 3); 4)', '4'], ['IFERROR(IF(m / n < 1; 2; 3); 4)', '2'], ['IFERROR(SQRT(n); 4)', '4'], ['IFERROR(MOD(n; m - 3); 4)', '4'], ['IFERROR(ABS(n); 4)', '7.25'], ['IFNA(LOOKUP(n; {0; 2}; {"a"; "b"}); "none")', 'none'],
  ['LOOKUP(m; {0; 3; 5}; {"a"; "b"; "c"})', 'b'], ['LOOKUP(m; {0; 2; 2; 5}; {"a"; "b"; "c"; "d"})', 'c'], ['LOOKUP(m; {0,"a";2,"b"})', 'b'], ['VLOOKUP(m; {0;"a"|2;"b"|5;"c"}; 2)', 'b'], ['VLOOKUP(m; {1;"a"|3;"b"}; 2; FALSE)', 'b'], ['VLOOKUP(m; {1;"a"|2;"b"}; 2; 0)', ''], ['HLOOKUP(m; {0;2;5|"a";"b";"c"}; 2)', 'b'], ['INDEX({"a"; "b"; "c"}; MATCH(m; {0; 2; 5}))', 'b'], ['INDEX({"a"; "b"; "c"}; MATCH(m; {5; 3; 1}; -1))', 'b'], ['INDEX({"a"; "b"; "c"}; m)', 'c'], ['MATCH(s; {"elm"; "Sessile oak"}; 0)', '2'],
  ['MID(s; 9; 3)', 'oak'], ['IF(ISNUMBER(SEARCH("OAK"; s)); 1; 2)', '1'], ['IF(XOR(m > 2; n > 2); 1; 2)', '1'], ['IF(XOR(m > 2; n < 2; t); 1; 2)', '1'], ['IF(XOR(m > 2; n < 2); 1; 2)', '2'], ['IF(m > 5; "a")', ''], ['IF(m > 2; IF(m > 2.5; "a"))', 'a'],
  ['YEAR(d)', '2024'], ['MONTH(d)', '2'], ['DATEDIF(d; e; "y")', '2'], ['IF(d < DATE(2024; 3; 1); e - d; 0)', '732'], ['IF(e <= TODAY(); 1; 2)', '1'],
  ['ABS()', 'problem: ABS takes 1 value, not 0.'], ['INDEX(s; 1)', 'problem: INDEX is only understood with a list in braces and a place in it.'], ['LOOKUP(m; {3; 1}; {"a"; "b"})', 'problem: The list has to rise from value to value for this lookup.'], ['LOOKUP(m; {1; 2}; {"a"})', 'problem: The lists have 2 and 1 values; each needs its result.'], ['LOOKUP(s; {"a"; "b"}; {1; 2})', 'problem: Only numbers are understood in a list that is looked through in order; for others, ask for the same.'], ['VLOOKUP(m; {1;2}; 3)', 'problem: VLOOKUP says with a number in which of 2 columns the result stands.'], ['{1; 2} + 1', 'problem: Several values are only understood within functions such as SUM, AVERAGE and LOOKUP.'], ['SEARCH("o?k"; s)', 'problem: SEARCH is only understood with a plain text, without “?”, “*” and “~”.'], ['MID(s; m; 1)', 'problem: MID is only understood with a plain number from 1 on as its second value.'], ['DATEDIF(d; e; "ym")', 'problem: DATEDIF is only understood with "y".'], ['IFS(m > 4)', 'problem: IFS takes conditions and values in pairs.'], ['FIND("a"; s)', 'problem: This is only understood where it is asked whether anything is found, as in ISNUMBER(FIND(…)).'],
])('OpenFormula: %s', (expression, result) => expect(worth(expression, 'openformula')).toBe(result))
