import { plainColumn } from '@dime-gate/contract/table'
import { newRulesGate } from '@dime-gate/core/gate/edit-rules'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { lookingAt, type OnTable, subjectsOf, withoutUnused, writtenCondition } from './subjects'

const table = {
  columns: [
    plainColumn(1, 'Decay', { unit: '%', type: 'percent', expectedLow: '0', expectedHigh: '100' }),
    plainColumn(2, 'Stands by', { type: 'text' }),
    plainColumn(3, '2nd look (cm)'),
    plainColumn(4, 'not'),
    plainColumn(5, 'Next due', { type: 'date' }),
  ],
  sets: [{ name: 'Modules', by: { kind: 'names' as const, like: 'Module *' } }],
}
const EMPTY: OnTable = { gate: newRulesGate('Felling'), inputs: {} }
const subjects = (on: OnTable) => subjectsOf(on, table, [{ name: 'Decay band' }, { name: 'Felling' }])

test('columns, sets and labels of other gates can be looked at, under names that conditions can say', () => {
  expect(subjects(EMPTY).map(({ name, detail }) => [name, detail])).toEqual([
    ['Decay', 'column, percent (%)'],
    ['Stands by', 'column, text'],
    ['Column 2nd look cm', 'column, number'],
    ['not value', 'column, number'],
    ['Next due', 'column, date'],
    ['Modules', 'set of columns'],
    ['Decay band', 'what that gate gives'],
  ])
})

test('what is looked at becomes an input, with what its column says of it, and is not offered twice', () => {
  const on = lookingAt(EMPTY, subjects(EMPTY)[0]!)
  expect(on.gate.inputs).toEqual([
    anInput('Decay', 'number', {
      unit: '%',
      blank: null,
      expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } },
    }),
  ])
  expect(on.inputs).toEqual({ Decay: { column: 1 } })
  expect(subjects(on).filter(({ name }) => name === 'Decay')).toEqual([{ name: 'Decay', detail: 'number (%)', adds: null }])
  expect(lookingAt(on, subjects(on)[0]!)).toEqual(on)
})

test('a condition that is typed may name whatever the table has', () => {
  const written = writtenCondition(EMPTY, ' Decay>=25 and Stands by = "school" and Decay band = "Weak"', subjects(EMPTY))
  expect(written).toMatchObject({
    text: 'Decay >= 25 and Stands by = "school" and Decay band = "Weak"',
    inputs: { Decay: { column: 1 }, 'Stands by': { column: 2 } },
  })
  expect('gate' in written && written.gate.inputs.map(({ name, source }) => [name, source.kind])).toEqual([
    ['Decay', 'given'],
    ['Stands by', 'given'],
    ['Decay band', 'gate'],
  ])
})

test.each([
  ['Decay >', /missing at the end/],
  ['Dekay > 3', /Did you mean “Decay”/],
  ['Stands by > 3', /./],
  ['Decay + 1', /./],
])('%s is told with its place, and changes nothing', (text, words) => {
  const written = writtenCondition(EMPTY, text, subjects(EMPTY))
  expect(written).toMatchObject({ trouble: { words: expect.stringMatching(words) as string, from: expect.any(Number) as number } })
})

test('nothing written is a condition that takes nothing yet', () => {
  expect(writtenCondition(EMPTY, '  ', subjects(EMPTY))).toMatchObject({ text: '', gate: EMPTY.gate })
})

test('an input that nothing looks at any more goes, with what stood for it; one of which something is said stays', () => {
  const gate = rulesGate(
    [
      anInput('Decay', 'number', { blank: null }),
      anInput('Lean', 'number', { blank: null }),
      anInput('Height', 'number', { blank: 'pass' }),
      anInput('Ratio', 'number', { source: { kind: 'figure', feel: 'Lean / 2' } }),
    ],
    [['Ratio > 3', 'a']],
  )
  const inputs = { Decay: { column: 1 }, Lean: { column: 2 } }
  const left = withoutUnused({ gate, inputs })
  expect([left.gate.inputs.map(({ name }) => name), left.inputs]).toEqual([['Lean', 'Height', 'Ratio'], { Lean: { column: 2 } }])
  const broken = { gate: { ...gate, rules: [{ condition: 'Ratio >', entries: [], note: '' }] }, inputs }
  expect(withoutUnused(broken)).toEqual(broken)
})
