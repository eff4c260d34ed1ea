import type { RulesGate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { anInput, rulesGate } from '@dime-gate/core/testing/a-gate'
import { addedColumns, checkHeaders } from './added-columns'
import { bindColumns, bindingsFrom } from './bind-columns'
import { CommandError } from './command-error'
import { countsOf } from './counts'
import { recordDecider } from './decide-records'
import type { GateFile } from './read-gates'
import { cellReader, listFromCell } from './read-values'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { ValueKind } from '@dime-gate/core/value/value'
import { textOfValue } from '@dime-gate/core/value/value-text'

const TODAY = parseDate('2026-03-02')!
const WRITING = { decimalMark: 'point', dateOrder: 'day' } as const
const ready = (gate: RulesGate) => ({ gate, lowered: lowered(gate) })
const decay = ready(rulesGate([anInput('Decay', 'number'), anInput('Lean', 'number')], [['Decay > 40', 'Failing']], { name: 'Decay band' }))
const troubleOf = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    if (error instanceof CommandError) return error.message
    throw error
  }
  return null
}

describe('columns for inputs', () => {
  const bind = (headers: string[], asked: string[] = []) => Object.fromEntries(bindColumns([decay], headers, bindingsFrom(asked), 'trees.csv'))

  test('by the very name, whatever its spaces; by the name before a unit', () => {
    expect(bind(['Tree', ' Decay '])).toEqual({ Decay: [1] })
    expect(bind(['Decay (%)', 'Tree'])).toEqual({ Decay: [0] })
    expect(bind(['Decay (%)', 'Decay'])).toEqual({ Decay: [1] })
  })
  test('only inputs that something depends on need one', () => expect(bind(['Decay'])).not.toHaveProperty('Lean'))
  test('by hand, an input that nothing depends on too', () => expect(bind(['Rot', 'Tilt'], ['Decay=Rot', 'Lean = Tilt'])).toEqual({ Decay: [0], Lean: [1] }))

  test.each<[string, string[], string[], RegExp]>([
    ['no column', ['Tree', 'Lean'], [], /^trees\.csv, line 1: No column is named “Decay”, which the gate looks at\. There are: Tree, Lean\./],
    ['nearly one', ['Decai'], [], /Did you mean “Decai”\? Choose it with --bind "Decay=Decai"/],
    ['two', ['Decay (%)', 'Decay (cm)'], [], /column 2: Columns 1 and 2 could both be “Decay”/],
    ['by hand, one that is not there', ['Decay'], ['Decay=Rot'], /No column is named “Rot”/],
    ['two for a single value', ['Decay', 'Rot'], ['Decay=Decay', 'Decay=Rot'], /“Decay” takes one column, not 2/],
    ['an input that there is not', ['Decay'], ['Rot=Decay'], /no input “Rot”/],
  ])('%s', (_, headers, asked, message) => expect(troubleOf(() => bind(headers, asked))).toMatch(message))

  test.each(['Decay', '=Decay', 'Decay='])('--bind %s is no binding', (text) => expect(troubleOf(() => bindingsFrom([text]))).toMatch(/Write INPUT=COLUMN/))
})

describe('values of columns', () => {
  const read = (type: ValueKind, unit: string, written: string) => cellReader(anInput('x', type, { unit }), WRITING)(written)
  test.each<[ValueKind, string, string, unknown]>([
    ['number', '', ' 1,200.5 ', '1200.5'], ['number', '', '12 %', { unreadable: '12 %' }], ['number', '%', '12 %', '12'], ['number', '', '', null],
    ['text', '', ' e\u0301sche ', 'ésche'], ['date', '', '13.4.1999', '1999-04-13'], ['date', '', '2026-02-30', { unreadable: '2026-02-30' }],
    ['boolean', '', 'Yes', 'true'], ['time', '', '10:30:00', '10:30:00'], ['time', '', '25:00', { unreadable: '25:00' }],
    ['date and time', '', '2026-03-02T10:30:00', '2026-03-02T10:30:00'], ['days and time duration', '', 'P3D', 'P3D'], ['years and months duration', '', 'P3D', { unreadable: 'P3D' }], ['time', '', '  ', null],
  ])('%s (%s): %j', (type, unit, written, value) => expect(read(type, unit, written)).toEqual(value))

  test.each<[string, string[] | null | 'unreadable']>([
    ['[4, 3.5]', ['4', '3.5']], ['[4, null, 5]', ['4', '5']], ['4', ['4']], ['', null], ['[4, "x"]', 'unreadable'], ['[4', 'unreadable'], ['[a]', 'unreadable'], ['x', 'unreadable'], ['[]', []],
  ])('a list: %j', (written, expected) => {
    const input = anInput('x', 'number', { isSet: true })
    const found = listFromCell(written, input, cellReader(input, WRITING))
    expect(found === null ? null : 'list' in found ? found.list.map(textOfValue) : 'unreadable').toEqual(expected)
  })
})

describe('what is written behind', () => {
  const file = (kind: GateFile['kind']): GateFile => ({ file: 'f', kind, library: { conditions: [], gates: [] } })
  const points = ready({ ...rulesGate([anInput('Decay', 'number')], []), name: 'Award', outcomes: [{ name: 'Award', type: 'text', labels: [] }, { name: 'Points', type: 'number', labels: [] }] })
  const headers = (kind: GateFile['kind'], gates: (typeof decay)[], why = false) => addedColumns(file(kind), gates, why).map(({ header }) => header)

  test('a document goes by the names of its outcomes, decisions by theirs', () => {
    expect(headers('document', [decay])).toEqual(['Label', 'gate status', 'gate rule'])
    expect(headers('dmn', [decay])).toEqual(['Decay band', 'gate status', 'gate rule'])
    expect(headers('dmn', [points], true)).toEqual(['Award.Award', 'Award.Points', 'gate status', 'gate rule', 'gate why'])
    expect(headers('library', [decay, points])).toEqual(['Decay band', 'Award.Award', 'Award.Points', 'Decay band status', 'Decay band rule', 'Award status', 'Award rule'])
  })
  test('no name stands twice', () => {
    const added = addedColumns(file('document'), [decay], false)
    expect(troubleOf(() => checkHeaders(['Tree', ' Label'], added, 'f.csv'))).toMatch(/^f\.csv, line 1, column 2: The table already has a column “Label”/)
    expect(troubleOf(() => checkHeaders(['Tree'], [...added, ...added], 'f.csv'))).toMatch(/both be written as “Label”/)
    expect(troubleOf(() => checkHeaders(['Tree', 'label'], added, 'f.csv'))).toBeNull()
  })
})

test('counts tell every label that the gate lists, what has none, and what could not be read', () => {
  const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }
  const gate = ready(rulesGate([anInput('Decay', 'number')], [['Decay > 40', 'Failing'], ['Decay > 12', 'Weak']], { name: 'Band', outcomes: [{ name: 'Label', type: 'text', labels: [{ value: 'Failing', ...look }, { value: 'Sound', ...look }] }] }))
  const decide = recordDecider([gate], new Map([['Decay', [0]]]), WRITING, TODAY)
  const counts = countsOf([gate])
  for (const batch of [[['50'], ['20']], [['x'], ['1'], ['y'], ['41']]]) counts.add(decide(batch), batch.length, batch.length === 2 ? 0 : 2)
  expect(counts.text().split('\n').map((line) => line.replace(/ {2,}(\d+)$/, ' $1'))).toEqual(['Band, 6 records', '  Failing 2', '  Sound 0', '  Weak 1', '  [unplaced] 1', '  [held] 2', 'unreadable', '  Decay, first in record 3: “x” 2', ''])
})
