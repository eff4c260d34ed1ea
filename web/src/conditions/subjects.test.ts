import { plainColumn } from '@dime-gate/contract/table'
import { newRulesGate } from '@dime-gate/core/gate/edit-rules'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import type { KnownCondition } from '@dime-gate/contract/condition'
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
const subjects = (on: OnTable, known: KnownCondition[] = []) => subjectsOf(on, table, [{ name: 'Decay band' }, { name: 'Felling' }], known)

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

describe('named conditions', () => {
  const weak = { id: 'aaaaaaaa', name: 'Weak stem', feel: 'Decay >= 25' }
  const near = { id: 'bbbbbbbb', name: 'Near people', feel: 'Stands by = "school" or Weak stem' }
  const decay = anInput('Decay', 'number', { blank: null })
  const place = anInput('Stands by', 'text', { blank: null })
  const known = (of: typeof weak, parcel: KnownCondition['parcel']): KnownCondition => ({ ...of, parcel, gates: [{ id: 9, name: 'Crown check', table: 1, rules: [] }] })
  const KNOWN = [known(near, { conditions: [weak, near], inputs: [place, decay] }), known(weak, { conditions: [weak], inputs: [decay] })]

  test('of other gates are offered where the table has all that they need', () => {
    expect(subjects(EMPTY, KNOWN).slice(-2).map(({ name, detail }) => [name, detail])).toEqual([['Near people', 'condition of Crown check'], ['Weak stem', 'condition of Crown check']])
    const tall = known({ ...weak, name: 'Tall' }, { conditions: [weak], inputs: [anInput('Height', 'number')] })
    const other = known({ ...weak, name: 'Other' }, { conditions: [weak], inputs: [anInput('Stands by', 'number')] })
    expect(subjects(EMPTY, [tall, other]).map(({ name }) => name)).not.toEqual(expect.arrayContaining([expect.stringMatching(/Tall|Other/)]))
  })

  test('bring along what they need, once, and are not offered again', () => {
    const written = writtenCondition(EMPTY, 'Near people and Decay < 90', subjects(EMPTY, KNOWN))
    if ('trouble' in written) throw new Error(written.trouble.words)
    expect(written.gate.conditions).toEqual([weak, near])
    expect(written.gate.inputs.map(({ name }) => name).toSorted()).toEqual(['Decay', 'Stands by'])
    expect(written.inputs).toEqual({ Decay: { column: 1 }, 'Stands by': { column: 2 } })
    expect(subjects(written, KNOWN).filter(({ name }) => name === 'Weak stem')).toEqual([{ name: 'Weak stem', detail: 'named condition', adds: null }])
  })

  test('keep the inputs that they need, also where no rule uses them', () => {
    const on = lookingAt(EMPTY, subjects(EMPTY, KNOWN).find(({ name }) => name === 'Weak stem')!)
    expect(withoutUnused(on)).toEqual(on)
  })
})
