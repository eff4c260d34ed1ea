import fc from 'fast-check'
import { dictionaryColumn } from '../table/dictionary-column'
import { numberColumn } from '../table/number-column'
import { recordAt, type Table } from '../table/table'
import { anInput, rulesGate, TODAY } from '../testing/a-gate'
import { decideRecord } from '../decide/decide-record'
import { lowered } from '../rule/lower'
import { tableDecider } from './decide-table'
import type { Lowered } from '../rule/rules'

const each = (table: Table, decide: (at: number) => { status: string; rule: number }) => Array.from({ length: table.length }, (_, at) => {
  const { status, rule } = decide(at)
  return `${status} ${rule}`
})
const expectAsByHand = (table: Table, gate: Lowered, decider = tableDecider(table, TODAY)) => {
  const { at } = decider.decide(gate)
  expect(each(table, at)).toEqual(each(table, (place) => decideRecord(gate, recordAt(table, place), TODAY)))
}

const numbers: Table = { length: 6, columns: new Map([['Decay', numberColumn(['0', '5', '12', null, '40', '5.5'])], ['Lean', numberColumn(['1', null, '3', '4', '5', '6'])]]) }

test('a cut that moves, also across another, takes along whom it passes and nobody else', () => {
  const inputs = [anInput('Decay', 'number'), anInput('Lean', 'number')]
  const decider = tableDecider(numbers, TODAY)
  for (const cut of ['5', '5.4', '5.6', '13', '50', '-1', '12', '5']) expectAsByHand(numbers, lowered(rulesGate(inputs, [[`Decay >= ${cut} and Lean > 2`, 'a'], ['Decay >= 10', 'b'], ['Lean >= 4', 'c']])), decider)
})

test('cuts of several columns that move by turns, past each other and onto each other', () => {
  let state = 5
  const next = (most: number) => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) % most
  const column = () => numberColumn(Array.from({ length: 300 }, () => (next(20) === 0 ? null : String(next(200) / 10))))
  const table: Table = { length: 300, columns: new Map([['Decay', column()], ['Lean', column()], ['Crown', column()]]) }
  const inputs = ['Decay', 'Lean', 'Crown'].map((name) => anInput(name, 'number'))
  const decider = tableDecider(table, TODAY)
  const cuts = Array.from({ length: 9 }, () => next(200) / 10)
  for (let move = 0; move < 120; move++) {
    // Mostly the one that was moved last, as when somebody drags it.
    const moving = next(4) === 0 ? next(9) : move % 40 < 20 ? 0 : 4
    cuts[moving] = next(3) === 0 ? cuts[next(9)]! : next(200) / 10
    const tests = cuts.map((cut, at) => `${inputs[at % 3]!.name} >= ${cut}`)
    expectAsByHand(table, lowered(rulesGate(inputs, [0, 1, 2].map((rule) => [`${tests[rule]} and ${tests[rule + 4]} and not(${tests[(rule + 8) % 9]})`, `label ${rule}`]))), decider)
  }
})

test('ends that come and go, owners that change, and cuts on each other move whom they concern', () => {
  const bound = fc.option(fc.record({ at: fc.constantFrom('-1', '0', '5', '5.5', '12', '41', '99'), included: fc.boolean() }), { nil: null })
  const piece = fc.tuple(bound, bound, fc.constantFrom('in', 'not')).map(([low, high, word]) => {
    const test = low && high ? `Decay in ${low.included ? '[' : '('}${low.at}..${high.at}${high.included ? ']' : ')'}` : low ? `Decay ${low.included ? '>=' : '>'} ${low.at}` : high ? `Decay ${high.included ? '<=' : '<'} ${high.at}` : 'Decay != 5'
    return word === 'in' ? test : `not(${test})`
  })
  const gates = fc.array(fc.tuple(piece, piece, fc.constantFrom('Lean > 2', 'Lean >= 4', 'Lean <= 3')), { minLength: 2, maxLength: 8 })
  const inputs = [anInput('Decay', 'number'), anInput('Lean', 'number')]
  fc.assert(fc.property(gates, (steps) => {
    const decider = tableDecider(numbers, TODAY)
    for (const [first, second, third] of steps) expectAsByHand(numbers, lowered(rulesGate(inputs, [[`${first} and ${third}`, 'a'], [second, 'b'], ['Lean > 1', 'c']])), decider)
  }), { numRuns: 300 })
})

test('a test that says something else of blanks is another test, although it has the same cuts', () => {
  const inputs = [anInput('Decay', 'number', { blank: 'pass' })]
  const decider = tableDecider(numbers, TODAY)
  for (const condition of ['not(Decay = 5)', 'not(Decay in [5..5])', 'Decay != 5', 'not(Decay between 5 and 5)', 'not(Decay = 5)']) expectAsByHand(numbers, lowered(rulesGate(inputs, [[condition, 'a']])), decider)
})

test('decisions are told until their decider decides again', () => {
  const gate = (cut: number) => lowered(rulesGate([anInput('Decay', 'number')], [[`Decay >= ${cut}`, 'a']]))
  const decider = tableDecider(numbers, TODAY)
  const [looked, not] = [decider.decide(gate(5)), tableDecider(numbers, TODAY)]
  expect(looked.having(['held']).words).toEqual(Uint32Array.of(0b1000))
  const first = not.decide(gate(5))
  decider.decide(gate(12))
  not.decide(gate(12))
  expect(looked.having(['held']).words).toEqual(Uint32Array.of(0b1000))
  expect(() => first.at(0)).toThrow('before the last ones')
})

test('means of nothing leave what other columns say of a record alone', () => {
  const set = [numberColumn([null, '12.5', '70']), numberColumn([null, '13', null])]
  const table: Table = { length: 3, columns: new Map<string, never>([['Decay', numberColumn(['40', '5', '40'])], ['Modules', set]] as never) }
  const inputs = [anInput('Decay', 'number'), anInput('Modules', 'number', { isSet: true })]
  const means = ['mean(Modules) > 60', 'mean(Modules) > 20']
  for (const order of [['Decay >= 12', ...means], [...means, 'Decay >= 12'], ['Decay >= 12 and mean(Modules) > 60', 'Decay >= 12 and mean(Modules) <= 20', 'Decay >= 12']]) expectAsByHand(table, lowered(rulesGate(inputs, order.map((condition, at) => [condition, `label ${at}`]))))
})

test('results beyond all doubles leave what other columns say alone', () => {
  const table: Table = { length: 3, columns: new Map([['Decay', numberColumn(['40', '5', '40'])], ['Lean', numberColumn(['1e200', '13', '12.5'])]]) }
  const inputs = [anInput('Decay', 'number'), anInput('Lean', 'number')]
  expectAsByHand(table, lowered(rulesGate(inputs, [['Decay >= 12 and Lean * Lean - Lean * Lean > 1', 'a'], ['Decay >= 12', 'b']])))
})

test('the day that counts as today is the same within some and every', () => {
  const set = [numberColumn(['2025', '2027']), numberColumn(['2026', '1999'])]
  const table: Table = { length: 2, columns: new Map<string, never>([['Years', set]] as never) }
  expectAsByHand(table, lowered(rulesGate([anInput('Years', 'number', { isSet: true })], [['some year in Years satisfies year > today().year', 'a'], ['every year in Years satisfies year <= today().year', 'b'], ['some year in Years satisfies year = today().year', 'c']])))
})

test('an input that nothing is bound to is blank everywhere; a table of no record is decided too', () => {
  const gate = lowered(rulesGate([anInput('Decay', 'number'), anInput('Species', 'text', { blank: 'pass' })], [['Species = "oak"', 'a'], ['Decay > 3', 'b'], ['Species = null', 'c']]))
  expectAsByHand({ length: 2, columns: new Map([['Decay', numberColumn(['5', '1'])]]) }, gate)
  expectAsByHand({ length: 0, columns: new Map([['Species', dictionaryColumn('text', [])]]) }, gate)
})

test('values that go from one list to another take along whom they concern and nobody else', () => {
  const values = ['ash', 'oak', 'lime', 'elm', 'yew', 'fir', 'box', 'may']
  let state = 3
  const next = (most: number) => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) % most
  const column = dictionaryColumn('text', Array.from({ length: 900 }, () => (next(15) === 0 ? null : values[Math.min(next(8), next(8))]!)))
  const table: Table = { length: 900, columns: new Map<string, never>([['Species', column], ['Decay', numberColumn(Array.from({ length: 900 }, () => String(next(60))))]] as never) }
  for (const blank of [undefined, 'pass'] as const) {
    const inputs = [anInput('Species', 'text', blank ? { blank } : {}), anInput('Decay', 'number')]
    const decider = tableDecider(table, TODAY)
    const lists = [[0, 1], [2, 3], [4]]
    for (let move = 0; move < 90; move++) {
      const value = next(8)
      for (const list of lists) if (list.includes(value)) list.splice(list.indexOf(value), 1)
      // Now and then a value is in none of them, or in two.
      for (let times = next(7) === 0 ? 2 : next(9) === 0 ? 0 : 1; times > 0; times--) lists[next(3)]!.push(value)
      const rules = lists.flatMap((list, at): [string, string][] => (list.length === 0 ? [] : [[`Species in (${[...new Set(list)].map((one) => `"${values[one]!}"`).join(', ')})${move % 30 < 20 ? '' : ` and Decay >= ${10 + (move % 3)}`}`, `label ${at}`]]))
      if (rules.length > 0) expectAsByHand(table, lowered(rulesGate(inputs, rules)), decider)
    }
  }
})

test('values of a figure that name other days move their records', () => {
  const column = dictionaryColumn('date', Array.from({ length: 400 }, (_, at) => (at % 40 === 0 ? null : `20${10 + (at % 13)}-0${1 + (at % 9)}-11`)))
  const table: Table = { length: 400, columns: new Map([['Planted', column]]) }
  const decider = tableDecider(table, TODAY)
  for (const year of [2012, 2015, 2014, 2019, 2012, 2023]) expectAsByHand(table, lowered(rulesGate([anInput('Planted', 'date')], [[`Planted.year = ${year} or Planted = date("2011-02-11")`, 'a'], [`Planted < date("${year - 1}-05-11")`, 'b']])), decider)
})
