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
    ['openformula', '=IF(VLOOKUP(Decay;Chart;2)>3;"a";"b")', 'VLOOKUP(Decay;Chart;2)', /VLOOKUP is not understood/],
    ['openformula', '=IF(Decay>3;"a";"b"', '', /ends where “\)”/],
    ['openformula', '=IF(Decay>3;"a";7)', '7', /different kinds/],
    ['openformula', '=IF(Decay>3;"a" "b")', '"b"', /stands where/],
    ['sql', "CASE WHEN Decay > 3 THEN 'a' ELSE (SELECT max(x) FROM t) END", 'SELECT', /stands where/],
    ['sql', "CASE WHEN Species LIKE 'a_b' THEN 'a' END", "'a_b'", /patterns/],
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
