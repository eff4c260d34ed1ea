import { decideRecord } from '@dime-gate/core/decide/decide-record'
import type { Gate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { givenBy, TODAY } from '@dime-gate/core/testing/a-gate'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { type ConditionalLanguage, readConditional } from './gate-from-conditional'

const read = (text: string, language: ConditionalLanguage) => {
  const result = readConditional(text, language, 'Read', TODAY)
  if ('problem' in result) throw new Error(`${result.problem.message} (${result.problem.from}–${result.problem.to})`)
  return result
}
const problemOf = (text: string, language: ConditionalLanguage) => {
  const result = readConditional(text, language, 'Read', TODAY)
  return 'problem' in result ? { message: result.problem.message, at: text.slice(result.problem.from, result.problem.to) } : null
}
const labelOf = (gate: Gate, texts: Record<string, string | null>) => textOfValue(decideRecord(lowered(gate), givenBy(gate.inputs, texts), TODAY).outcomes[0] ?? null)

describe('a chain of cuts on one number is a scale', () => {
  const chains: [ConditionalLanguage, string][] = [
    ['openformula', '=IF(Decay<12;"Sound";IF(Decay<25;"Watch";IF(Decay<=40;"Weak";"Failing")))'],
    ['openformula', 'of:=IFS(Decay>40;"Failing";Decay>=25;"Weak";Decay>=12;"Watch";TRUE();"Sound")'],
    ['sql', `CASE WHEN Decay < 12 THEN 'Sound' WHEN Decay < 25 THEN 'Watch' WHEN Decay <= 40 THEN 'Weak' ELSE 'Failing' END`],
    ['sql', `select case when "Decay" > 40 then 'Failing' when "Decay" >= 25 then 'Weak' when "Decay" >= 12 then 'Watch' when "Decay" < 12 then 'Sound' end as band;`],
    ['feel', 'if Decay < 12 then "Sound" else if Decay < 25 then "Watch" else if Decay in [25..40] then "Weak" else "Failing"'],
  ]
  test.each(chains)('%s: %s', (language, text) => {
    const { gate } = read(text, language)
    expect(gate).toMatchObject({ form: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'above' }, { at: '40', owner: 'below' }], floor: null, ceiling: null })
    expect(['11.99', '12', '25', '40', '40.01'].map((Decay) => labelOf(gate, { Decay }))).toEqual(['Sound', 'Watch', 'Weak', 'Weak', 'Failing'])
  })

  test('ends where no branch takes anything are its floor and ceiling', () => {
    const { gate } = read(`CASE WHEN Decay BETWEEN 0 AND 12 THEN 'Sound' WHEN Decay > 12 AND Decay < 100 THEN 'Weak' END`, 'sql')
    expect(gate).toMatchObject({ form: 'scale', cuts: [{ at: '12', owner: 'below' }], floor: { at: '0', included: true }, ceiling: { at: '100', included: false } })
  })

  test('a value with a result of its own, or a hole, makes it rules', () => {
    expect(read('=IF(Decay<12;"Sound";IF(Decay=12;"Edge";"Weak"))', 'openformula').gate.form).toBe('rules')
    const { gate, findings } = read(`CASE WHEN Marks < 65 THEN 'low' WHEN Marks > 65 THEN 'high' END`, 'sql')
    expect(gate.form).toBe('rules')
    expect(findings.findings.map(({ kind }) => kind)).toContain('edge hole')
  })
})

describe('branches in order', () => {
  test('inner branches of a true side come before what follows', () => {
    const { gate } = read('=IF(Lean>10;IF(Species="ash";"fell";"prop");IF(OR(Decay>40;NOT(Species="oak"));"watch";""))', 'openformula')
    expect(gate).toMatchObject({ form: 'rules', otherwise: null })
    expect(gate.form === 'rules' && gate.rules.map(({ condition }) => condition)).toEqual(['Lean > 10 and Species = "ash"', 'Lean > 10', 'Decay > 40 or Species != "oak"'])
    expect(labelOf(gate, { Lean: '12', Species: 'ash', Decay: '0' })).toBe('fell')
    expect(labelOf(gate, { Lean: '12', Species: 'oak', Decay: '0' })).toBe('prop')
    expect(labelOf(gate, { Lean: '1', Species: 'oak', Decay: '50' })).toBe('watch')
    expect(labelOf(gate, { Lean: '1', Species: 'oak', Decay: '0' })).toBe('')
  })

  test('each rule, or band, knows the branch that it comes from', () => {
    const branches = (text: string, language: ConditionalLanguage) => {
      const { branches: all, rest } = read(text, language)
      return [...all, ...(rest ? [rest] : [])].map(({ from, to }) => text.slice(from, to))
    }
    expect(branches('=IF(Decay>=40;"Fell";IF(Decay>=12;"Climb";IF(Decay>=25;"Prop";"Leave")))', 'openformula')).toEqual(['Decay>=40;"Fell"', 'Decay>=12;"Climb"', 'Decay>=25;"Prop"', '"Leave"'])
    // Of a scale the lowest band comes first.
    expect(branches("CASE WHEN points >= 90 THEN 'crown' WHEN points >= 60 THEN 'climb' ELSE 'ground' END", 'sql').slice(0, 3)).toEqual(["'ground'", "points >= 60 THEN 'climb'", "points >= 90 THEN 'crown'"])
    expect(branches("CASE WHEN due < DATE '2026-01-01' THEN 'old' ELSE 'new' END", 'sql')).toEqual(["due < DATE '2026-01-01' THEN 'old'", "'new'", "'new'"])
    expect(branches('IF(AND(A>1;B="x");IF(C>2;"p";"q");"r")', 'openformula')).toEqual(['C>2;"p"', '"q"', '"r"'])
  })

  test('the wrong order is found, and stays rules so that it can be told', () => {
    const { gate, findings } = read('=IF(Decay>=10;"Watch";IF(Decay>=40;"Failing";"Sound"))', 'openformula')
    expect(gate.form).toBe('rules')
    expect(findings.findings.filter(({ kind }) => kind === 'never reached').map(({ rules }) => rules[0])).toEqual([1])
  })

  test('kinds of inputs are told by what they are compared with; results that are computed stay', () => {
    const { gate } = read(`CASE WHEN due < DATE '2026-03-02' AND NOT alive THEN points * 2 WHEN t."Stands by" IN ('school', 'road') THEN 3 ELSE COALESCE(points, 0) END`, 'sql')
    expect(gate.inputs.map(({ name, type, blank }) => [name, type, blank])).toEqual([['due', 'date', 'pass'], ['alive', 'boolean', 'pass'], ['points', 'number', 'pass'], ['Stands by', 'text', 'pass']])
    expect(labelOf(gate, { due: '2026-03-01', alive: 'false', points: '4', 'Stands by': null })).toBe('8')
    expect(labelOf(gate, { due: null, alive: null, points: null, 'Stands by': 'road' })).toBe('3')
    expect(labelOf(gate, { due: null, alive: null, points: null, 'Stands by': null })).toBe('0')
  })

  test('names that conditions could not use get another, and it is said', () => {
    const { gate, renamed } = read(`=IF($$'Decay (%)' > 40; 1; IF([.$B$2] > 3; 2; 3))`, 'openformula')
    expect(renamed).toEqual([{ from: 'Decay (%)', to: 'Decay' }])
    expect(gate.inputs.map(({ name }) => name)).toEqual(['Decay', 'B2'])
  })

  test('cells of other sheets, cells in a row, and columns of a table are names', () => {
    const { gate, renamed } = read(`=IF(AVERAGE(B2:D2)>=50,IF('Old marks'!$B$2>Sheet1!B2,"up",IF([@Score]>[@[Last one]],"same","down")),"below")`, 'openformula')
    expect(gate.inputs.map(({ name }) => name)).toEqual(['B2', 'C2', 'D2', 'Old marks B2', 'Sheet1 B2', 'Score', 'Last one'])
    expect(renamed.map(({ from }) => from)).toEqual(['Old marks!B2', 'Sheet1!B2'])
    expect(read('=SUM(Y1:AB1)', 'openformula').gate.inputs.map(({ name }) => name)).toEqual(['Y1', 'Z1', 'AA1', 'AB1'])
    expect(read('CASE WHEN `Trunk cm` > 3 AND [Lean] < 5 THEN 1 END', 'sql').gate.inputs.map(({ name }) => name)).toEqual(['Trunk cm', 'Lean'])
  })

  test('of a whole SELECT the conditional is read', () => {
    const { gate } = read(`SELECT id, t.name AS n, CASE WHEN Decay > 3 THEN 'a' ELSE 'b' END band FROM office.trees t;`, 'sql')
    expect(labelOf(gate, { Decay: '4' })).toBe('a')
  })

  test('a table of cuts that is looked up is a scale; below its first value nothing is found', () => {
    const { gate } = read('=VLOOKUP(Decay;{0;"Sound"|12;"Watch"|25;"Weak"};2)', 'openformula')
    expect(gate).toMatchObject({ form: 'scale', cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'above' }], floor: { at: '0', included: true } })
    expect(['-1', '0', '12', '99'].map((Decay) => labelOf(gate, { Decay }))).toEqual(['', 'Sound', 'Watch', 'Weak'])
  })

  test('a way out for errors is taken where a figure cannot be computed, and never by a blank', () => {
    const { gate } = read('=IFERROR(IF(Height/Trunk>0.8;"slim";"stout");"no trunk")', 'openformula')
    expect([['9', '10'], ['3', '0'], ['3', '9']].map(([Height, Trunk]) => labelOf(gate, { Height: Height!, Trunk: Trunk! }))).toEqual(['slim', 'no trunk', 'stout'])
    const decided = decideRecord(lowered(gate), givenBy(gate.inputs, { Height: '3', Trunk: null }), TODAY)
    expect([decided.status, decided.missing]).toEqual(['held', ['Trunk']])
  })

  test('what could be meant in another way is told', () => {
    expect(read('=IF(Species="oak";1;2)', 'openformula').doubts).toEqual([expect.stringMatching(/“oak” is not “Oak”/)])
    expect(read('=IF(Decay>3;"a")', 'openformula').doubts).toEqual([expect.stringMatching(/without a third value/)])
    expect(read('=IF(Decay>3;1;2)', 'openformula').doubts).toEqual([])
    expect(read("CASE WHEN Species = 'oak' THEN 1 END", 'sql').doubts).toEqual([])
  })

  test('what a null means to SQL is kept: it is equal to nothing, nor different from it', () => {
    const { gate } = read(`CASE WHEN a <> 5 THEN 'other' WHEN NOT (a = b) THEN 'apart' WHEN a IS DISTINCT FROM b THEN 'distinct' WHEN (a > 3) IS NOT TRUE THEN 'not above' ELSE 'rest' END`, 'sql')
    expect(labelOf(gate, { a: '4', b: null })).toBe('other')
    expect(labelOf(gate, { a: '5', b: '6' })).toBe('apart')
    expect(labelOf(gate, { a: null, b: '6' })).toBe('distinct')
    expect(labelOf(gate, { a: null, b: null })).toBe('not above')
    expect(labelOf(gate, { a: '5', b: '5' })).toBe('rest')
  })
})

describe('what is not understood is told, and where', () => {
  const cases: [ConditionalLanguage, string, string, RegExp][] = [
    ['openformula', '=IF(VLOOKUP(Decay;Chart;2)>3;"a";"b")', 'VLOOKUP(Decay;Chart;2)', /VLOOKUP is only understood with a list in braces/],
    ['openformula', '=IF(Decay>3;"a";"b"', '', /ends where “\)”/],
    ['openformula', '=IF(Decay>3;"a";7)', '7', /different kinds/],
    ['openformula', '=IF(Decay>3;"a" "b")', '"b"', /stands where/],
    ['sql', "CASE WHEN Decay > 3 THEN 'a' ELSE (SELECT max(x) FROM t) END", 'SELECT', /stands where/],
    ['openformula', '=IF(Decay>=0,5;"a";"b")', ';', /Both “,” and “;” .* as in 0\.5/],
    ['openformula', '=IF(SUM(B2:B9)>3;"a";"b")', 'B2:B9', /several rows/],
    ['openformula', '=LOOKUP(Decay;A2:C2;{1;2;3})', 'A2:C2', /Only numbers are understood/],
    ['sql', "CASE WHEN Species LIKE 'a\\b' THEN 'a' END", "'a\\b'", /not understood/],
    ['sql', "SELECT CASE WHEN Decay > 3 THEN 'a' END FROM trees WHERE Park = 2", 'WHERE', /Only one table/],
    ['sql', 'SELECT Decay, Lean FROM trees', 'Decay, Lean', /One CASE should stand behind SELECT; there is none/],
    ['sql', "CASE WHEN age(Due) > 3 THEN 'a' END", 'age(Due)', /AGE is not understood/],
    ['sql', "CASE WHEN Species > 3 AND Species = 'oak' THEN 'a' END", 'Species = \'oak\'', /do not go together/],
    ['sql', "CASE WHEN Decay > 3 THEN 'a", "'", /never closed/],
    ['feel', 'if Decay > 3 then "a" else if', '', /missing at the end/],
    ['feel', 'if Decay > 3 then "a" else "b" + 4', '"b" + 4', /do not go together/],
  ]
  test.each(cases)('%s: %s', (language, text, at, message) => {
    expect(problemOf(text, language)).toEqual({ at, message: expect.stringMatching(message) })
  })
})
