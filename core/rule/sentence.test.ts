import fc from 'fast-check'
import { factsOf } from '../decide/facts'
import { verdictOf } from '../decide/verdict'
import { testVerdict } from '../decide/decide-record'
import { checkExpression } from '../expression/check'
import { parseExpression } from '../expression/parse'
import { printExpression } from '../expression/print'
import type { Node } from '../expression/tree'
import type { Type } from '../expression/type'
import { rulesGates, tables, TODAY } from '../testing/arbitrary-gate'
import { recordAt } from '../table/table'
import { VALUE_KINDS, type ValueKind } from '../value/value'
import { type Condition, conditionOf, conditionText } from './condition'
import { lowered } from './lower'
import { conditionSaid, firstSentence, relationsOf, type Sentence, sentenceOf, valueCount, valueKind, withRelation } from './sentence'

const TYPES = new Map<string, Type>([
  ['Decay', 'number'],
  ['Stands by', 'text'],
  ['Next due', 'date'],
  ['Ticket', 'boolean'],
  ['Modules', { list: 'number' }],
])
const kindOf =
  (types: ReadonlyMap<string, Type>) =>
  (subject: Node): ValueKind | null => {
    const { type } = checkExpression(subject, types)
    return (VALUE_KINDS as readonly unknown[]).includes(type) ? (type as ValueKind) : null
  }
function read(text: string): Condition {
  const parsed = parseExpression(text, TYPES.keys())
  if ('problem' in parsed) throw new Error(JSON.stringify(parsed.problem))
  return conditionOf(parsed.tree)
}
const sentence = (text: string) => sentenceOf(read(text), kindOf(TYPES))
const short = (text: string) => {
  const found = sentence(text)
  return (
    found && [
      printExpression(found.subject),
      found.relation,
      ...found.values,
      ...(valueCount(found.relation) === 2 ? [found.included] : []),
    ]
  )
}

test.each([
  ['Decay >= 25', ['Decay', 'at least', '25']],
  ['25 <= Decay', ['Decay', 'at least', '25']],
  ['Decay = -3', ['Decay', 'is', '-3']],
  ['not(Decay > 40)', ['Decay', 'at most', '40']],
  ['Decay between 50 and 64', ['Decay', 'between', '50', '64', [true, true]]],
  ['Decay in [50..64)', ['Decay', 'between', '50', '64', [true, false]]],
  ['not(Decay in [50..64])', ['Decay', 'not between', '50', '64', [true, true]]],
  ['Stands by = "school"', ['Stands by', 'is', 'school']],
  ['Stands by in ("school", "verge")', ['Stands by', 'one of', 'school', 'verge']],
  ['Stands by in ["school", "verge"]', ['Stands by', 'one of', 'school', 'verge']],
  ['not(Stands by in ("school", "verge"))', ['Stands by', 'none of', 'school', 'verge']],
  ['not(contains(Stands by, "play"))', ['Stands by', 'contains not', 'play']],
  ['Next due < today()', ['Next due', 'before today']],
  ['Next due >= @"2026-03-02"', ['Next due', 'at least', '2026-03-02']],
  ['Next due in [today() - @"P365D"..today()]', ['Next due', 'within days before', '365']],
  ['Next due in [today()..today() + @"P14D"]', ['Next due', 'within days after', '14']],
  ['Next due < today() - @"P365D"', ['Next due', 'more than days before', '365']],
  ['Ticket', ['Ticket', 'yes']],
  ['not(Ticket)', ['Ticket', 'no']],
  ['Decay = null', ['Decay', 'blank']],
  ['not(Decay = null)', ['Decay', 'not blank']],
  ['mean(Modules) >= 3.5', ['mean(Modules)', 'at least', '3.5']],
  ['(Next due - today()).days < 7', ['(Next due - today()).days', 'below', '7']],
])('%s is said as a sentence', (text, expected) => expect(short(text)).toEqual(expected))

test.each([
  'Decay > Decay * 2',
  'Decay = "much"',
  'Next due < today() - @"P1Y"',
  'Decay in (3, > 40)',
  'Decay in (> 40)',
  'if Ticket then true else false',
  'some one in Modules satisfies one > 3',
  '1 = 1',
  'Next due = today()',
  'Decay',
  'not(Next due in [today() - @"P3D"..today()])',
  'Ticket = true',
  'contains(Stands by, Stands by)',
])('%s stays an expression', (text) => expect(sentence(text)).toBeNull())

const VALUES: Partial<Record<ValueKind, string[]>> = {
  number: ['-3', '0.25', '365'],
  text: ['school', '', 'a "quoted" one'],
  date: ['2026-03-02', '2024-02-29'],
  'days and time duration': ['P3D'],
}
const sentences: fc.Arbitrary<Sentence> = fc
  .constantFrom<ValueKind>('number', 'text', 'date', 'boolean', 'days and time duration')
  .chain((kind) =>
    fc.constantFrom(...relationsOf(kind)).chain((relation) => {
      const of = valueKind({ kind, relation })
      const value = fc.constantFrom(...(relation.includes('days') ? ['1', '14', '365'] : (VALUES[of] ?? [''])))
      const count = valueCount(relation)
      const values =
        count === null ? fc.array(value, { minLength: 1, maxLength: 4 }) : fc.array(value, { minLength: count, maxLength: count })
      return fc.record({
        subject: fc.constant<Node>({ kind: 'name', name: 'It', span: { from: 0, to: 0 } }),
        kind: fc.constant(kind),
        relation: fc.constant(relation),
        values,
        included: valueCount(relation) === 2 ? fc.tuple(fc.boolean(), fc.boolean()) : fc.constant<[boolean, boolean]>([true, true]),
      })
    }),
  )

test('what is said is read back as it was said, by way of its text', () =>
  fc.assert(
    fc.property(sentences, (said) => {
      const types = new Map<string, Type>([['It', said.kind]])
      const parsed = parseExpression(conditionText(conditionSaid(said)), types.keys())
      if ('problem' in parsed) throw new Error(JSON.stringify(parsed.problem))
      const back = sentenceOf(conditionOf(parsed.tree), kindOf(types))
      expect(back && { ...back, subject: printExpression(back.subject) }).toEqual({ ...said, subject: 'It' })
    }),
  ))

/** All tests of a condition, and what is `not` of one. */
function parts(condition: Condition): Condition[] {
  if (condition.kind === 'test') return [condition]
  return condition.kind === 'not' ? [condition, ...parts(condition.of)] : condition.of.flatMap(parts)
}

test('a sentence and the expression that it stands for have one verdict of every record, blanks too', () => {
  let compared = 0
  fc.assert(
    fc.property(rulesGates(fc.constant('first')), tables, (gate, table) => {
      const ready = lowered(gate)
      const types = new Map(
        [...ready.inputs.values()].map(({ name, type, isSet }): [string, Type] => [name, isSet ? { list: type } : type]),
      )
      for (const condition of ready.rules.flatMap((rule) => parts(rule.condition))) {
        const found = sentenceOf(condition, kindOf(types))
        if (!found) continue
        const said = conditionSaid(found)
        for (let at = 0; at < table.length; at++) {
          const facts = factsOf(ready, recordAt(table, at), TODAY)
          const verdict = (of: Condition) => verdictOf(of, (test) => testVerdict(ready, test, facts))
          expect([conditionText(condition), at, verdict(said)]).toEqual([conditionText(condition), at, verdict(condition)])
          compared++
        }
      }
    }),
    { numRuns: 100 },
  )
  expect(compared).toBeGreaterThan(500)
})

test('another relation keeps the values that fit it, and finds some where none do', () => {
  const first = firstSentence('Decay', 'number', '25')
  expect(first).toMatchObject({ relation: 'at least', values: ['25'] })
  expect(withRelation(first, 'between', '0').values).toEqual(['25', '25'])
  expect(withRelation(withRelation(first, 'blank', '0'), 'above', '7').values).toEqual(['7'])
  const due = firstSentence('Next due', 'date', '2026-03-02')
  expect(due).toMatchObject({ relation: 'before today', values: [] })
  expect(withRelation(withRelation(due, 'within days before', '2026-03-02'), 'above', '2026-03-02').values).toEqual(['2026-03-02'])
  expect(withRelation({ ...first, relation: 'one of', values: ['1', '2', '3'] }, 'is', '0').values).toEqual(['1'])
})
