import fc from 'fast-check'
import { countBits } from '../table/bitmap'
import { type NumberCell, numberColumn } from '../table/number-column'
import { Decimal, plain } from '../value/number'
import { decideRecord } from './decide-record'
import { decideTable, decisionAt } from './decide-table'
import { intervalPlaces } from './interval-places'
import { scaleRules, type ScaleGate } from './scale-gate'

const band = (label: string) => ({ label, colour: '#7fa99a', mark: 'disc' as const })

function scale(cuts: [string, 'below' | 'above'][], labels: string[], ends: Partial<Pick<ScaleGate, 'floor' | 'ceiling'>> = {}): ScaleGate {
  return {
    form: 'scale', name: 'Decay band', input: { name: 'Decay', type: 'percent', unit: '%' },
    cuts: cuts.map(([at, owner]) => ({ at, owner })), bands: labels.map(band), floor: null, ceiling: null, ...ends,
  }
}

const decay = scale([['12', 'above'], ['25', 'above'], ['40', 'below']], ['Sound', 'Watch', 'Weak', 'Failing'])
const labelFor = (gate: ScaleGate, value: string | null) => {
  const rules = scaleRules(gate)
  const { status, label } = decideRecord(rules, value)
  return status === 'labelled' ? rules.labels[label] : status
}

describe('a scale', () => {
  test.each([
    ['11.999', 'Sound'], ['12', 'Watch'], ['12.0', 'Watch'], ['24.999', 'Watch'], ['25', 'Weak'], ['40', 'Weak'], ['40.0001', 'Failing'], ['-3', 'Sound'],
  ])('%s earns %s: the cut belongs to the side that owns it', (value, label) => expect(labelFor(decay, value)).toBe(label))

  test('a blank is held, since a value could change its label', () => expect(labelFor(decay, null)).toBe('held'))

  test('without cuts there is nothing a value could change', () => expect(labelFor(scale([], ['Any']), null)).toBe('Any'))

  test('beyond the floor or the ceiling a record is unplaced, and a blank might be', () => {
    const ended = { ...decay, floor: { at: '0', included: true }, ceiling: { at: '100', included: false } }
    expect(['-0.1', '0', '99.9', '100', '140'].map((value) => labelFor(ended, value))).toEqual(['unplaced', 'Sound', 'Failing', 'unplaced', 'unplaced'])
    expect(labelFor(scale([], ['Any'], { floor: { at: '0', included: true } }), null)).toBe('held')
  })
})

/** Decimals that crowd around a few cuts, some of them closer than a double can tell. */
const crowded = fc.tuple(fc.constantFrom('0', '0.1', '0.3', '12', '70', '12345678'), fc.integer({ min: -3, max: 3 }), fc.constantFrom(1, 15, 16, 17, 24))
  .map(([near, units, place]) => plain(new Decimal(near).plus(new Decimal(units).times(new Decimal(10).pow(-place)))))
const cell: fc.Arbitrary<NumberCell> = fc.oneof({ weight: 8, arbitrary: crowded }, fc.constant(null), fc.constant({ unreadable: 'n/a' }))
const gates = fc.tuple(
  fc.uniqueArray(crowded, { maxLength: 6 }),
  fc.array(fc.constantFrom<'below' | 'above'>('below', 'above'), { minLength: 6, maxLength: 6 }),
  fc.array(fc.constantFrom('a', 'b', 'c'), { minLength: 7, maxLength: 7 }),
  fc.option(fc.boolean(), { nil: null }),
).map(([cuts, owners, labels, floor]) => {
  const sorted = cuts.toSorted((a, b) => new Decimal(a).cmp(b))
  return scale(sorted.map((at, i) => [at, owners[i]!]), labels.slice(0, cuts.length + 1), { floor: floor === null ? null : { at: '-1', included: floor } })
})

const valueOf = (it: NumberCell) => (typeof it === 'string' ? it : null)

test('a table is decided as its records are, one by one', () => {
  fc.assert(fc.property(gates, fc.array(cell, { maxLength: 90 }), (gate, cells) => {
    const rules = scaleRules(gate)
    const column = numberColumn(cells)
    const decisions = decideTable(column, intervalPlaces(column), rules)
    expect(cells.map((_, at) => decisionAt(decisions, rules, at))).toEqual(cells.map((it) => decideRecord(rules, valueOf(it))))
    const everywhere = [...decisions.caught, decisions.held, decisions.unplaced].map(countBits).reduce((a, b) => a + b)
    expect(everywhere).toBe(cells.length)
  }), { numRuns: 300 })
})

test('a changed gate gives what it would give from scratch', () => {
  fc.assert(fc.property(gates, gates, fc.array(cell, { maxLength: 70 }), (before, after, cells) => {
    const column = numberColumn(cells)
    const places = intervalPlaces(column)
    decideTable(column, places, scaleRules(before))
    expect(decideTable(column, places, scaleRules(after))).toEqual(decideTable(column, intervalPlaces(column), scaleRules(after)))
  }))
})

test('a value one unit in the twentieth digit below a cut is below it', () => {
  const gate = scale([['0.3', 'above']], ['under', 'from'])
  const column = numberColumn(['0.29999999999999999999', '0.3', '0.30000000000000000001', '0.30'])
  const rules = scaleRules(gate)
  const decisions = decideTable(column, intervalPlaces(column), rules)
  expect([0, 1, 2, 3].map((at) => decisionAt(decisions, rules, at).label)).toEqual([0, 1, 1, 1])
})
