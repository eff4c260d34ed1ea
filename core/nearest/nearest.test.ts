import fc from 'fast-check'
import { readyGates } from '../bulk/decide-gates'
import type { Gate, Input, RulesGate, ScaleGate } from '../gate/document'
import { givenNumber, plainScale } from '../gate/scale-gate'
import type { Cell } from '../table/cells'
import { columnOf } from '../table/table'
import { band, rulesGate } from '../testing/a-gate'
import { parseDate } from '../value/temporal'
import { resultMaker } from '../result/make-results'
import { hasNearness, nearestToLabel } from './nearest'

const TODAY = parseDate('2026-03-02')!
const scale = (cuts: string[], labels: string[], change: Partial<ScaleGate> = {}): ScaleGate =>
  ({ ...plainScale('Band', givenNumber('Decay', '%'), cuts.map((at) => ({ at, owner: 'above' })), labels.map(band)), ...change })
function nearest(gate: ScaleGate, cells: Cell[], label: string, isLosing: boolean): number[] {
  const ready = readyGates({ conditions: [], gates: [gate] })
  if ('problems' in ready) throw new Error('the gate cannot decide')
  const table = { length: cells.length, columns: new Map([['Decay', columnOf(gate.inputs[0]!.type as 'number', cells)]]) }
  return [...nearestToLabel(resultMaker(() => table, TODAY)(ready.ready), { label, isLosing, most: cells.length })]
}

test('those that have it, the nearest to where it ends first; those that have it not, the nearest to where it begins; a blank is near nothing', () => {
  const cells = ['39', '41', '45', null, '90', '12']
  expect(nearest(scale(['40'], ['Weak', 'Failing']), cells, 'Failing', true)).toEqual([1, 2, 4])
  expect(nearest(scale(['40'], ['Weak', 'Failing']), cells, 'Failing', false)).toEqual([0, 5])
})

test('a cut between two bands of one label is no end of it, and an end of the scale is one', () => {
  expect(nearest(scale(['10', '20'], ['a', 'a', 'b']), ['9.9', '19', '1'], 'a', true)).toEqual([1, 0, 2])
  expect(nearest(scale(['10'], ['a', 'b'], { ceiling: { at: '100', included: true } }), ['50', '99', '11'], 'b', true)).toEqual([1, 2, 0])
})

test('days lie as far from each other as they do in the calendar', () => {
  const gate = scale(['2026-03-01'], ['old', 'new'])
  const onDays: ScaleGate = { ...gate, inputs: [{ ...gate.inputs[0]!, type: 'date' }] }
  expect(nearest(onDays, ['2026-02-27', '2025-03-01', '2026-03-09'], 'old', true)).toEqual([0, 1])
})

test('a label that no band gives, and one that all give, has nobody near it', () => {
  expect([nearest(scale(['10'], ['a', 'b']), ['1', '20'], 'c', false), nearest(scale(['10'], ['a', 'a']), ['1', '20'], 'a', true)]).toEqual([[], []])
})

test('as by plain reckoning, on any values', () => {
  fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 30 }), fc.boolean(), (values, isLosing) => {
    const gives = (value: number) => value >= 25 && value < 60
    const far = (value: number) => Math.min(Math.abs(value - 25), Math.abs(value - 60))
    const expected = values.map((value, at) => ({ value, at })).filter(({ value }) => gives(value) === isLosing).toSorted((a, b) => far(a.value) - far(b.value) || a.at - b.at)
    expect(nearest(scale(['25', '60'], ['low', 'middle', 'high']), values.map(String), 'middle', isLosing)).toEqual(expected.map(({ at }) => at))
  }))
})

describe('rules', () => {
  const gate: RulesGate = rulesGate([givenNumber('A', 'cm'), givenNumber('B', '%')], [['A >= 30 and B >= 60', 'both'], ['A >= 30', 'one']], { name: 'Two', otherwise: [{ is: 'none' }] })
  const resultOf = (a: readonly number[], b: readonly number[]) => {
    const ready = readyGates({ conditions: [], gates: [gate] })
    if ('problems' in ready) throw new Error('the gate cannot decide')
    const columns = new Map([['A', columnOf('number', a.map(String))], ['B', columnOf('number', b.map(String))]])
    return resultMaker(() => ({ length: a.length, columns }), TODAY)(ready.ready)
  }

  test('are left, and reached, by the input that has the least to go; never by two at once', () => {
    // Read backwards, the one column is the other: both have the same spread, and far is far in either.
    fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 4, maxLength: 30 }), fc.constantFrom('both', 'one', 'none'), fc.boolean(), (a, label, isLosing) => {
      const b = a.toReversed()
      const gives = (x: number, y: number) => (x < 30 ? 'none' : y < 60 ? 'one' : 'both')
      const isThere = (x: number, y: number) => (gives(x, y) === label) !== isLosing
      const far = (at: number) => Math.min(...Array.from({ length: 201 }, (_, half) => half / 2).flatMap((to) => [isThere(to, b[at]!) ? Math.abs(to - a[at]!) : Infinity, isThere(a[at]!, to) ? Math.abs(to - b[at]!) : Infinity]))
      const places = a.map((_, at) => at).filter((at) => (gives(a[at]!, b[at]!) === label) === isLosing && far(at) < Infinity)
      const told = [...nearestToLabel(resultOf(a, b), { label, isLosing, most: a.length })]
      // To just below a cut it is no way at all, which halves cannot say.
      const way = (at: number) => Math.floor(far(at))
      expect(told.toSorted((one, other) => one - other)).toEqual(places)
      expect(told.map(way)).toEqual(told.map(way).toSorted((one, other) => one - other))
    }))
  })

  test('as many as are asked for, of those that no single value would help none', () => {
    expect([...nearestToLabel(resultOf([29, 10, 20, 5], [90, 90, 90, 5]), { label: 'both', isLosing: false, most: 2 })]).toEqual([0, 2])
    expect([...nearestToLabel(resultOf([29, 10], [1, 2]), { label: 'both', isLosing: false, most: 2 })]).toEqual([])
  })
})

test('there is nobody near a label of a list of texts, nor where several rules count together', () => {
  const text = { ...givenNumber('Species', ''), type: 'text' as const }
  expect(hasNearness([rulesGate([text], [['Species = "oak"', 'a']], { name: 'Texts' })])).toBe(false)
  const pair: [string, string][] = [['A >= 30', 'a']]
  expect(hasNearness([rulesGate([givenNumber('A', '')], pair, { name: 'Numbers' })])).toBe(true)
  expect(hasNearness([rulesGate([givenNumber('A', '')], pair, { name: 'All', hitPolicy: 'collect' })])).toBe(false)
})

describe('gates that are fed', () => {
  const band = (name: string, on: string, cuts: string[], labels: string[]) => ({ ...scale(cuts, labels), name, inputs: [givenNumber(on, '')], on })
  const fed = (name: string, gate: string): Input => ({ ...givenNumber(name, ''), type: 'text', source: { kind: 'gate', gate, outcome: null } })
  const decay = band('Decay band', 'Decay', ['25', '40'], ['Sound', 'Weak', 'Failing'])
  const slender = {
    ...band('Slenderness band', 'Slenderness', ['50'], ['Stout', 'Slender']),
    inputs: [givenNumber('Height', 'm'), givenNumber('Trunk', 'cm'), { ...givenNumber('Slenderness', ''), source: { kind: 'figure' as const, feel: 'Height * 100 / Trunk' } }],
  }
  const felling = rulesGate([fed('State', 'Decay band'), fed('Shape', 'Slenderness band'), givenNumber('Lean', '°')], [['State = "Failing"', 'fell'], ['State = "Weak" and (Shape = "Slender" or Lean >= 20)', 'fell']], { name: 'Felling', otherwise: [{ is: 'leave' }] })
  const GATES = [decay, slender, felling]

  function resultOf(records: Record<string, Cell>[], gates: readonly Gate[] = GATES) {
    const ready = readyGates({ conditions: [], gates: [...gates] })
    if ('problems' in ready) throw new Error(JSON.stringify([...ready.problems]))
    const all = new Map(['Decay', 'Height', 'Trunk', 'Lean'].map((name) => [name, columnOf('number', records.map((record) => record[name] ?? null))]))
    return resultMaker(() => ({ length: records.length, columns: all }), TODAY)(ready.ready)
  }
  const tree = (Decay: string, Slenderness: string, Lean = '0') => ({ Decay, Height: Slenderness, Trunk: '100', Lean })

  test('a record is near by what the feeding gates look at, their figures and what is looked at itself, whichever is nearest', () => {
    // From the next cut of decay: 1, 30, 15 with shape that helps; 3 by lean; and one that no single value helps soon.
    const records = [tree('39', '10'), tree('10', '10'), tree('24', '60'), tree('30', '10', '19'), tree('30', '49', '0')]
    const near = [...nearestToLabel(resultOf(records), { label: 'fell', isLosing: false, most: 5 })]
    expect(new Set(near)).toEqual(new Set([0, 1, 2, 3, 4]))
    expect(near.at(-1)).toBe(1)
    expect(hasNearness(GATES)).toBe(true)
  })

  test('what would not change the label of the last gate is no way there', () => {
    // It takes two values to fell what is sound, stout and upright by way of being weak; one by way of failing.
    const few = resultOf([tree('5', '10'), tree('24', '60')])
    expect([...nearestToLabel(few, { label: 'fell', isLosing: false, most: 2 })]).toEqual([1, 0])
  })

  test('a column that several gates look at is moved for all of them', () => {
    // Between 25 and 40 a tree is weak, but from 30 on the second gate leaves it: the one value has to suit both.
    const strict = rulesGate([fed('State', 'Decay band'), givenNumber('Decay', '')], [['State != "Sound" and Decay < 30', 'look']], { name: 'Strict', otherwise: [{ is: 'leave' }] })
    const records = ['24', '31', '60', '10'].map((decayed) => tree(decayed, '10'))
    expect([...nearestToLabel(resultOf(records, [decay, strict]), { label: 'look', isLosing: false, most: 4 })].sort()).toEqual([0, 1, 2, 3])
    const never = rulesGate([fed('State', 'Decay band'), givenNumber('Decay', '')], [['State = "Sound" and Decay >= 30', 'look']], { name: 'Never', otherwise: [{ is: 'leave' }] })
    expect([...nearestToLabel(resultOf(records, [decay, never]), { label: 'look', isLosing: false, most: 4 })]).toEqual([])
  })

  test('as by plain reckoning through two gates, on any values', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 30 })), { minLength: 2, maxLength: 15 }), fc.boolean(), (pairs, isLosing) => {
      const gives = (decayed: number, lean: number) => decayed >= 40 || (decayed >= 25 && lean >= 20)
      const records = pairs.map(([decayed, lean]) => tree(String(decayed), '10', String(lean)))
      const found = [...nearestToLabel(resultOf(records), { label: 'fell', isLosing, most: records.length })]
      const whole = (most: number) => Array.from({ length: most + 1 }, (_, value) => value)
      const canTurn = pairs.map(([decayed, lean]) => whole(80).some((other) => gives(other, lean) !== isLosing) || whole(80).some((other) => gives(decayed, other) !== isLosing))
      expect(found.toSorted((a, b) => a - b)).toEqual(pairs.flatMap(([decayed, lean], at) => (gives(decayed, lean) === isLosing && canTurn[at] ? [at] : [])))
    }), { numRuns: 60 })
  })
})
