/** Records that were once labelled, or held, wrongly: by themselves and in a table, as the definition says. */
import { tableDecider } from '../bulk/decide-table'
import { outcomeColumns } from '../bulk/outcome-columns'
import { decideRecord } from '../decide/decide-record'
import type { Entry, Gate, GridGate, Input, RulesGate, ScaleGate } from '../gate/document'
import { lowered } from '../rule/lower'
import { columnOf, type Column, type Table, valueTextAt } from '../table/table'
import type { NumberColumn } from '../table/number-column'
import { anInput, givenBy, rulesGate, TODAY } from '../testing/a-gate'
import type { Value } from '../value/value'
import { textOfValue, valueFromText } from '../value/value-text'

type Given = Record<string, string | null>

/** What becomes of one record; a set's members are columns of their own. */
function said(gate: Gate, given: Given): string {
  const ready = lowered(gate)
  const members = (name: string) => Object.keys(given).filter((key) => key.startsWith(`${name} `))
  const single = givenBy(gate.inputs, given)
  const isSet = new Set(gate.inputs.filter((input) => input.isSet).map(({ name }) => name))
  const value = (name: string): Value => isSet.has(name) ? members(name).flatMap((key) => (given[key] === null ? [] : [valueFromText(given[key]!, 'number')])) : single(name)
  const { status, outcomes, missing } = decideRecord(ready, value, TODAY)
  const alone = outcomes.length > 0 ? outcomes.map(textOfValue).join(', ') : [status, ...missing].join(' ')

  const column = (text: string | null, type: Input['type']): Column => columnOf(type, [text])
  const columns = new Map(gate.inputs.filter(({ source }) => source.kind === 'given').map(({ name, type, isSet: isMany }): [string, Column | NumberColumn[]] => [name, isMany ? members(name).map((key) => column(given[key]!, type) as NumberColumn) : column(given[name] ?? null, type)]))
  const table: Table = { length: 1, columns }
  const decider = tableDecider(table, TODAY)
  const decisions = decider.decide(ready)
  const one = decisions.at(0)
  const labels = outcomes.length > 0 ? [...outcomeColumns(ready, table, decisions, decider).values()].map((made) => valueTextAt(made, 0) ?? '').join(', ') : [one.status, ...decider.explain(ready, 0).missing].join(' ')
  expect(labels).toBe(alone)
  return alone
}

const [X, Y] = [anInput('x', 'number'), anInput('y', 'number')]
const U = anInput('u', 'text')
const M = anInput('m', 'number', { isSet: true })
/** One rule, whose records get `yes`. */
const asks = (inputs: Input[], condition: string, change: Partial<RulesGate> = {}) => rulesGate(inputs, [[condition, 'yes']], { otherwise: [{ is: 'no' }], ...change })
const passing = (inputs: Input[]) => inputs.map((input) => ({ ...input, blank: 'pass' as const }))

describe('figures that are rounded', () => {
  const loss = (feel: string, kind: 'half up' | 'half even' | 'truncated', places: number) => [anInput('a', 'number'), anInput('b', 'number'), anInput('Loss', 'number', { source: { kind: 'figure', feel }, precision: { kind, places } })]
  test.each([
    ['half up', '12.35', '12.3', 'Loss >= 0.1', 'yes'], ['half up', '12.34', '12.3', 'Loss >= 0.1', 'no'], ['half even', '12.35', '12.3', 'Loss >= 0.1', 'no'], ['half even', '12.45', '12.3', 'Loss >= 0.2', 'yes'],
    ['truncated', '12.4', '12.3', 'Loss >= 0.1', 'yes'], ['truncated', '12.39', '12.3', 'Loss >= 0.1', 'no'], ['half up', '-12.35', '-12.3', 'Loss <= -0.1', 'yes'],
  ] as const)('%s, %s - %s: %s is %s', (kind, a, b, condition, label) => expect(said(asks(loss('a - b', kind, 1), condition), { a, b })).toBe(label))
  test('a figure of a rounded figure', () => {
    const inputs = [...loss('a - b', 'half up', 1), anInput('Tenfold', 'number', { source: { kind: 'figure', feel: 'Loss * 10' } })]
    expect(said(asks(inputs, 'Tenfold = 1'), { a: '12.35', b: '12.3' })).toBe('yes')
  })
  test('the mean of a set', () => {
    const inputs = [M, anInput('Mean', 'number', { source: { kind: 'figure', feel: 'mean(m)' }, precision: { kind: 'half up', places: 1 } })]
    expect(said(asks(inputs, 'Mean >= 0.2'), { 'm 1': '0.1', 'm 2': '0.2' })).toBe('yes')
  })
})

describe('results that are computed', () => {
  const entries = (feel: string): Entry[] => [{ feel }]
  const gate = (change: Partial<RulesGate>): RulesGate => ({ ...rulesGate([X, Y], []), rules: [{ condition: 'x > 5', entries: entries('if y > 3 then "high" else "low"'), note: '' }], ...change })
  test.each<[string, string | null, string | null, string]>([['6 and nothing', '6', null, 'held y'], ['6 and 4', '6', '4', 'high'], ['6 and 3', '6', '3', 'low']])('%s', (_, x, y, label) => expect(said(gate({}), { x, y })).toBe(label))
  test('what is left over, and further outcomes', () => {
    expect(said(gate({ rules: [{ condition: 'x > 5', entries: [{ is: 'a' }], note: '' }], otherwise: entries('if y > 3 then "high" else "low"') }), { x: '5', y: null })).toBe('held y')
    const two = gate({ outcomes: [{ name: 'Label', type: 'text', labels: [] }, { name: 'Points', type: 'number', labels: [] }], rules: [{ condition: 'x > 5', entries: [{ is: 'a' }, { feel: 'if y > 3 then 1 else 2' }], note: '' }] })
    expect([said(two, { x: '6', y: null }), said(two, { x: '6', y: '4' })]).toEqual(['held y', 'a, 1'])
  })
})

describe('rules that are gathered', () => {
  const points = (hitPolicy: 'collect count' | 'collect sum', rules: [string, string][], otherwise: string): RulesGate => ({ ...rulesGate([X], rules, { otherwise: [{ is: otherwise }] }), hitPolicy, outcomes: [{ name: 'Points', type: 'number', labels: [] }] })
  test('what several rules come to together is possible as well', () => {
    expect(said(points('collect count', [['x > 1', '1'], ['x > 2', '1']], '1'), { x: null })).toBe('held x')
    expect(said(points('collect count', [['x > 1', '1']], '1'), { x: null })).toBe('1')
    expect(said(points('collect sum', [['x > 1', '0'], ['x <= 1', '0']], '5'), { x: null })).toBe('0')
  })
})

describe('a blank is asked for by its own name', () => {
  test.each<[string, Given, string]>([
    ['(if y = null then 0 else y) + x = 5', { x: null, y: '3' }, 'held x'], ['(if y = null then 0 else y) + x = 5', { x: '5', y: null }, 'yes'], ['x = null', { x: null, y: null }, 'yes'], ['x = null or y > 3', { x: '1', y: null }, 'held y'],
  ])('%s with %j: %s', (condition, given, label) => expect(said(asks([X, Y], condition), given)).toBe(label))
})

describe('no record is held whose label no blank can change', () => {
  const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }
  test('a scale of one label all along, and one that ends', () => {
    const scale: ScaleGate = { schema: 1, form: 'scale', name: 'One', inputs: [X], on: 'x', floor: null, ceiling: null, otherwise: null, cuts: [{ at: '5', owner: 'above' }], bands: [{ entries: [{ is: 'same' }] }, { entries: [{ is: 'same' }] }], outcomes: [{ name: 'Label', type: 'text', labels: [{ value: 'same', ...look }] }] }
    expect(said(scale, { x: null })).toBe('same')
    expect(said({ ...scale, floor: { at: '0', included: true } }, { x: null })).toBe('held x')
  })
  test('a row of a grid that gives one label', () => {
    const side = (on: string) => ({ kind: 'scale' as const, on, cuts: [{ at: '5', owner: 'above' as const }], floor: null, ceiling: null })
    const grid: GridGate = { schema: 1, form: 'grid', name: 'Grid', inputs: [X, Y], down: side('x'), across: side('y'), cells: [[[{ is: 'a' }], [{ is: 'a' }]], [[{ is: 'b' }], [{ is: 'c' }]]], otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }] }
    expect(said(grid, { x: '1', y: null })).toBe('a')
    expect(said(grid, { x: '6', y: null })).toBe('held y')
  })
  test.each<[string, Given, string]>([
    ['x >= 5 or x < 5', { x: null, y: null }, 'yes'], ['if x > 5 then true else y > 3', { x: '6', y: null }, 'yes'], ['if x > 5 then true else y > 3', { x: '5', y: null }, 'held y'],
    ['max(x, y) > 5', { x: '9', y: null }, 'yes'], ['max(x, y) > 5', { x: '5', y: null }, 'held y'], ['min(x, y) > 5', { x: '5', y: null }, 'no'], ['some i in [x, y] satisfies i > 5', { x: '9', y: null }, 'yes'], ['every i in [x, y] satisfies i > 5', { x: '5', y: null }, 'no'],
  ])('%s with %j: %s', (condition, given, label) => expect(said(asks([X, Y], condition), given)).toBe(label))
  test('of a set without any value its name is told as what is missing', () => expect(said(asks([M], 'mean(m) >= 2'), { 'm 1': null, 'm 2': null })).toBe('held m'))
})

describe('where blanks pass', () => {
  test.each<[string, Given, string]>([
    ['x in (> y)', { x: null, y: '1' }, 'no'], ['x in (> y)', { x: '2', y: null }, 'no'], ['x in (> y)', { x: '2', y: '1' }, 'yes'], ['x in [1..5]', { x: null, y: null }, 'no'], ['x in [y..5]', { x: '3', y: null }, 'no'], ['not(x between 1 and 5)', { x: null, y: null }, 'no'],
  ])('%s with %j: %s', (condition, given, label) => expect(said(asks(passing([X, Y]), condition), given)).toBe(label))
  test.each<[string, string | null, string]>([
    ['u in ("oak".."oak")', 'oak', 'no'], ['u in ("oak".."oak")', null, 'no'], ['u in ["oak".."oak"]', 'oak', 'yes'], ['not(u between "5" and "5")', null, 'no'], ['not(u between "5" and "5")', '6', 'yes'], ['string length(u) > 3', null, 'no'], ['contains(u, "x")', null, 'no'],
  ])('%s with %s: %s', (condition, u, label) => expect(said(asks(passing([U]), condition), { u })).toBe(label))
  const W = anInput('w', 'date and time', { blank: 'pass' })
  test.each<[string, string | null, string]>([
    ['w != @"2024-05-01T10:00:00"', '2024-05-01T10:00:00Z', 'no'], ['not(w = @"2024-05-01T10:00:00")', '2024-05-01T10:00:00Z', 'no'], ['w != @"2024-05-01T10:00:00"', '2024-05-01T10:00:01', 'yes'], ['w = @"2024-05-01T10:00:00"', null, 'no'],
  ])('%s with %s: %s', (condition, w, label) => expect(said(asks([W], condition), { w })).toBe(label))
})
