import { anInput } from '../testing/a-gate'
import type { Gate, GridSide, ScaleGate } from '../gate/document'
import { lower } from './lower'

const INPUTS = [anInput('Decay', 'number'), anInput('Due', 'date'), anInput('Species', 'text'), anInput('Dead', 'boolean'), anInput('Modules', 'number', { isSet: true })]
const head = { schema: 1 as const, name: 'Gate', inputs: INPUTS, outcomes: [{ name: 'Label', type: 'text' as const, labels: [] }], otherwise: null }
const gives = (label: string) => ({ entries: [{ is: label }] })
const problems = (gate: Gate) => {
  const lowering = lower(gate)
  return 'problems' in lowering ? lowering.problems.map(({ code, path }) => [code, path]) : []
}

const scale: ScaleGate = { ...head, form: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }, { at: '25', owner: 'below' }], floor: null, ceiling: null, bands: [gives('a'), gives('b'), gives('c')] }
test.each<[string, Partial<ScaleGate>, unknown[]]>([
  ['is well', {}, []],
  ['is on nothing', { on: 'Lean' }, [['unknown-input', 'on']]],
  ['is on a yes or no', { on: 'Dead' }, [['not-ordered', 'on']]],
  ['is on a column set', { on: 'Modules' }, [['not-ordered', 'on']]],
  ['has a band too few', { bands: [gives('a')] }, [['band-count', 'bands']]],
  ['has a cut that is no number', { cuts: [{ at: 'low', owner: 'above' }, { at: '25', owner: 'below' }] }, [['bad-value', 'cuts.0']]],
  ['has numbers on a date', { on: 'Due' }, [['bad-value', 'cuts.0'], ['bad-value', 'cuts.1']]],
  ['has one cut twice', { cuts: [{ at: '12', owner: 'above' }, { at: '12.0', owner: 'below' }] }, [['cut-order', 'cuts.1']]],
  ['ends below its cuts', { ceiling: { at: '20', included: true } }, [['empty-band', 'bands.2']]],
  ['ends on an open cut', { ceiling: { at: '25', included: true } }, [['empty-band', 'bands.2']]],
  ['ends in words', { floor: { at: 'zero', included: true } }, [['bad-value', 'floor']]],
])('a scale that %s', (_, change, expected) => expect(problems({ ...scale, ...change })).toEqual(expected))

test.each<[string, string, boolean, string[][], unknown[]]>([
  ['is well', 'Species', true, [['oak'], ['ash', 'elm']], []],
  ['says a value twice', 'Species', false, [['oak'], ['ash', 'oak']], [['repeated-value', 'lines.1.1']]],
  ['says it twice but for case', 'Species', true, [['oak'], [' OAK']], [['repeated-value', 'lines.1.0']]],
  ['may, where case counts', 'Species', false, [['oak'], ['OAK']], []],
  ['has a number that is none', 'Decay', false, [['12', 'n/a']], [['bad-value', 'lines.0.1']]],
  ['is on a column set', 'Modules', false, [['1']], [['not-ordered', 'on']]],
])('a match list that %s', (_, on, folds, lines, expected) => {
  expect(problems({ ...head, form: 'match', on, folds, lines: lines.map((values) => ({ values, ...gives('x') })) })).toEqual(expected)
})

test('a grid has a cell for every crossing, and sides that are well by themselves', () => {
  const down: GridSide = { kind: 'list', on: 'Species', folds: false, lines: [['oak'], ['ash']] }
  const across: GridSide = { kind: 'scale', on: 'Decay', cuts: [{ at: '12', owner: 'above' }], floor: null, ceiling: null }
  const cell = [{ is: 'x' }]
  expect(problems({ ...head, form: 'grid', down, across, cells: [[cell, cell], [cell, null]] })).toEqual([])
  expect(problems({ ...head, form: 'grid', down, across, cells: [[cell, cell]] })).toEqual([['grid-shape', 'cells']])
  expect(problems({ ...head, form: 'grid', down, across, cells: [[cell], [cell, cell]] })).toEqual([['grid-shape', 'cells']])
  expect(problems({ ...head, form: 'grid', down: { ...down, on: 'Gone' }, across: { ...across, on: 'Dead' }, cells: [[cell, cell], [cell, cell]] })).toEqual([['unknown-input', 'down.on'], ['not-ordered', 'across.on']])
})
