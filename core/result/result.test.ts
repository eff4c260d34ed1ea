import { dictionaryColumn } from '../table/dictionary-column'
import { countBits, placesOf } from '../table/bitmap'
import type { Cell } from '../table/cells'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import type { Gate, ScaleGate } from '../gate/document'
import { givenNumber, plainScale } from '../gate/scale-gate'
import { lowered } from '../rule/lower'
import { NONE, STATUSES } from '../rule/rules'
import { anInput, band, rulesGate, TODAY } from '../testing/a-gate'
import { arrivals } from './counts'
import { keptResult, resultMaker } from './make-results'
import { labelCounts, recordsByLabel, type Tray, trayName } from './tray'

const ready = (gate: Gate) => ({ gate, lowered: lowered(gate) })
const resultOf = (gate: Gate, table: Table) => resultMaker(() => table, TODAY)([ready(gate)])
const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }

const INPUTS = [
  anInput('Decay', 'number', { tolerance: '1', expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '100', included: true } } }),
  anInput('Species', 'text', { expected: { kind: 'list', values: ['oak', 'ash'] } }),
]
const outcomes = [{ name: 'Label', type: 'text' as const, labels: ['fell', 'watch', 'prop'].map((value) => ({ value, ...look })) }]
const GATE = rulesGate(INPUTS, [['Decay >= 60', 'fell'], ['Species = "oak" and Decay >= 0', 'watch'], ['Decay > 10', 'fell']], { outcomes })
const TREES: Table = {
  length: 8,
  columns: new Map<string, never>([
    ['Decay', numberColumn(['60', '59.5', '61', '140', null, { unreadable: '35 cm' }, '5', '10'])],
    ['Species', dictionaryColumn('text', ['oak', 'oak', 'ash', 'elm', 'oak', 'ash', 'oak', 'ash'])],
  ] as never),
}

describe('rules', () => {
  const result = resultOf(GATE, TREES)
  const at = (tray: Tray) => [...placesOf(result.places(tray))]

  test('what one part of a condition holds for, and what no other rule would take, are ways to look at it', () => {
    expect([at({ kind: 'part', rule: 1, way: [0] }), at({ kind: 'part', rule: 1, way: [1] }), at({ kind: 'part', rule: 1, way: [7] }), at({ kind: 'part', rule: 9, way: [] })]).toEqual([[0, 1, 4, 6], [0, 1, 2, 3, 6, 7], [], []])
    expect([at({ kind: 'only', rule: 0 }), at({ kind: 'only', rule: 1 }), at({ kind: 'only', rule: 2 }), at({ kind: 'only', rule: 9 })]).toEqual([[], [6], [], []])
  })

  test('a label is counted wherever it comes from', () => {
    const gate = rulesGate(INPUTS, [['Decay >= 60', 'fell'], ['Decay > 10', 'watch']], { otherwise: [{ is: 'fell' }] })
    const whole = resultOf(gate, TREES)
    expect([...recordsByLabel(whole.trays, whole.counts(), 'fell')]).toEqual([['fell', whole.counts().caught[0]! + whole.counts().otherwise], ['watch', whole.counts().caught[1]]])
    expect(whole.counts().otherwise).toBeGreaterThan(0)
  })

  test('trays come in the order of the labels, empty ones too', () => {
    expect(result.trays.map(({ label, rules }) => [label, rules])).toEqual([['fell', [0, 2]], ['watch', [1]], ['prop', []]])
    expect(labelCounts(result.trays, result.counts())).toEqual([3, 2, 0])
    expect([at({ kind: 'label', label: 'fell' }), at({ kind: 'label', label: 'prop' }), at({ kind: 'label', label: 'gone' })]).toEqual([[0, 2, 3], [], []])
  })

  test('rules are counted as they come, and each by itself', () => {
    const counts = result.counts()
    expect([arrivals(counts, 'first'), counts.caught, result.further().alone]).toEqual([[6, 3, 1], [3, 2, 0], [3, 3, 4]])
    expect([at({ kind: 'rule', rule: 1 }), at({ kind: 'alone', rule: 1 }), at({ kind: 'alone', rule: 7 })]).toEqual([[1, 6], [0, 1, 6], []])
    expect([at({ kind: 'unplaced' }), at({ kind: 'held' }), at({ kind: 'otherwise' })]).toEqual([[7], [4, 5], []])
  })

  test('cuts are told with what lies on them and beside them, and inputs with what they lack', () => {
    const { edges, inputs } = result.counts()
    expect(edges).toEqual([
      { of: 'Decay', at: '0', on: 0, short: 0, past: 0 },
      { of: 'Decay', at: '10', on: 1, short: 0, past: 0 },
      { of: 'Decay', at: '60', on: 1, short: 1, past: 1 },
    ])
    expect(inputs).toEqual([{ input: 'Decay', blank: 1, unreadable: 1, outside: 1 }, { input: 'Species', blank: 0, unreadable: 0, outside: 1 }])
    expect([at({ kind: 'edge', of: 'Decay', at: '60', side: 'past' }), at({ kind: 'on an edge' }), at({ kind: 'near an edge' }), at({ kind: 'outside' }), at({ kind: 'unreadable' })]).toEqual([[2], [0, 7], [1, 2], [3], [5]])
  })

  test('how near is near may be a part of the cut, whichever side of zero it lies on', () => {
    const scale = { ...plainScale('Band', { ...givenNumber('Change', ''), tolerance: '5%' }, ['-200', '0', '100'].map((at) => ({ at, owner: 'above' as const })), ['a', 'b', 'c', 'd'].map(band)) }
    const table: Table = { length: 8, columns: new Map([['Change', numberColumn(['-210', '-189.99', '-190', '0', '0.001', '95', '94.999', '105'])]]) }
    expect(resultOf(scale, table).counts().edges).toEqual([
      { of: 'Change', at: '-200', on: 0, short: 1, past: 1 }, { of: 'Change', at: '0', on: 1, short: 0, past: 0 }, { of: 'Change', at: '100', on: 0, short: 1, past: 1 },
    ])
  })

  test('an exception has its reasons, the weightiest first, and is counted once', () => {
    const reasons = (place: number) => result.reasons(place)
    expect(reasons(3)).toEqual([{ kind: 'outside', input: 'Decay', value: '140' }, { kind: 'outside', input: 'Species', value: 'elm' }])
    expect(reasons(4)).toEqual([{ kind: 'held', inputs: ['Decay'] }])
    expect(reasons(5)).toEqual([{ kind: 'unreadable', input: 'Decay', text: '35 cm' }])
    expect(reasons(7)).toEqual([{ kind: 'unplaced' }, { kind: 'edge', of: 'Decay', at: '10', side: 'on' }])
    expect(reasons(6)).toEqual([])
    expect(at({ kind: 'exceptions' })).toEqual([0, 1, 2, 3, 4, 5, 7])
    expect(result.further()).toMatchObject({ exceptions: 7, unreadable: 1, outside: 1, onEdge: 2, nearEdge: 2 })
  })

  test('the why of a record shows what could not be read', () => {
    expect(result.why(5)).toMatchObject({ decision: { status: 'held', missing: ['Decay'] }, inputs: [{ name: 'Decay', value: null, unreadable: '35 cm' }, { name: 'Species', unreadable: null }] })
  })

  test('values that a test asks to be met exactly are no cuts; what expressions are cut at is', () => {
    const { edges } = resultOf(rulesGate(INPUTS, [['Decay = 5 or Decay in (3, 4)', 'fell'], ['Decay * 2 > 120', 'watch'], ['Species < "oak"', 'prop']]), TREES).counts()
    expect(edges).toEqual([{ of: 'Decay * 2', at: '120', on: 1, short: 0, past: 0 }])
  })

  test('labels that rules compute are in one tray, and a label named like a status is still a label', () => {
    const gate = rulesGate(INPUTS, [['Decay < 50', 'held']], { otherwise: [{ is: 'held' }] })
    const computed = resultOf({ ...gate, rules: [...gate.rules, { condition: 'Decay < 60', entries: [{ feel: 'string(Decay)' }], note: '' }] }, TREES)
    expect([computed.trays.map(({ label }) => label), labelCounts(computed.trays, computed.counts()), computed.counts().otherwise]).toEqual([['held', '(computed)'], [2, 1], 3])
    expect([...placesOf(computed.places({ kind: 'label', label: null }))]).toEqual([1])
    expect(trayName({ kind: 'label', label: 'held' })).not.toBe(trayName({ kind: 'held' }))
  })

  test('an empty table has every tray, empty', () => {
    const result = resultOf(GATE, { length: 0, columns: new Map() })
    expect([labelCounts(result.trays, result.counts()), result.further()]).toEqual([[0, 0, 0], { alone: [0, 0, 0], exceptions: 0, unreadable: 0, outside: 0, onEdge: 0, nearEdge: 0 }])
  })

  test('an input that nothing is bound to is blank throughout', () => {
    expect(resultOf(GATE, { length: 3, columns: new Map() }).counts()).toMatchObject({ held: 3, inputs: [{ blank: 3, unreadable: 0 }, { blank: 3 }] })
  })

  test('of a column set a record lacks a value where no member has one', () => {
    const members = (cells: Cell[][]) => cells.map((one) => numberColumn(one))
    const table = { length: 4, columns: new Map([['Modules', members([['1', null, null, { unreadable: 'x' }], [null, null, '2', '3']])]]) }
    const { inputs } = resultOf(rulesGate([anInput('Modules', 'number', { isSet: true })], [['mean(Modules) > 1', 'a']]), table).counts()
    expect(inputs).toEqual([{ input: 'Modules', blank: 1, unreadable: 1, outside: 0 }])
  })
})

describe('a scale', () => {
    const gate: ScaleGate = {
    ...plainScale('Decay band', givenNumber('Decay', '%'), [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], [band('Sound'), band('Watch'), band('Failing')]),
    ceiling: { at: '100', included: true },
  }
  const table = { length: 9, columns: new Map([['Decay', numberColumn(['3', '12', '12.0', '25', '25.1', null, { unreadable: 'n/a' }, '140', '100'])]]) }
  const result = resultOf(gate, table)

  test('values on a cut are told, those on the end of the scale are not', () => {
    expect(result.counts()).toMatchObject({ caught: [1, 3, 2], held: 2, unplaced: 1, edges: [{ at: '12', on: 2 }, { at: '25', on: 1 }] })
    expect([...placesOf(result.places({ kind: 'exceptions' }))]).toEqual([1, 2, 3, 5, 6, 7])
  })

  test('what lies beyond an end is off the scale', () => {
    expect(result.reasons(7)).toEqual([{ kind: 'off the scale', input: 'Decay', end: 'ceiling', at: '100' }])
  })

  test('what was kept is told as it was, whatever would come out now', () => {
    const kept = keptResult([ready(gate)], () => table, TODAY, { status: Uint8Array.from({ length: 9 }, () => STATUSES.indexOf('labelled')).fill(STATUSES.indexOf('held'), 8), rule: Int32Array.from({ length: 9 }, () => 2).fill(NONE, 8) })
    expect(kept.counts()).toMatchObject({ caught: [0, 0, 8], held: 1, unplaced: 0, edges: [{ on: 2 }, { on: 1 }] })
    expect(countBits(kept.places({ kind: 'label', label: 'Failing' }))).toBe(8)
  })
})
