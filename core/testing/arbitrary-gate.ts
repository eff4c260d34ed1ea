/** Random gates and tables for property tests: few inputs, few values, so that everything meets everything. */
import fc from 'fast-check'
import { type DictionaryColumn, dictionaryColumn } from '../table/dictionary-column'
import type { Cell } from '../table/cells'
import { numberColumn } from '../table/number-column'
import type { Table } from '../table/table'
import { Decimal, plain } from '../value/number'
import { parseDate } from '../value/temporal'
import type { Entry, Gate, HitPolicy, Input, Precision, RulesGate } from '../gate/document'

export const TODAY = parseDate('2026-03-02')!

/** Decimals that crowd around a few cuts, some of them closer than a double can tell. */
export const crowded = fc.tuple(fc.constantFrom('0', '0.1', '0.3', '0.35', '12', '12.3', '12.35', '70', '12345678'), fc.integer({ min: -3, max: 3 }), fc.constantFrom(0, 1, 15, 16, 17, 24))
  .map(([near, units, place]) => plain(new Decimal(near).plus(new Decimal(units).times(new Decimal(10).pow(-place)))))
const dates = fc.constantFrom('2026-02-27', '2026-02-28', '2026-03-01', '2026-03-02', '2026-03-03')
const texts = fc.constantFrom('oak', 'ash', 'Oak', 'silver birch', '')

const precision: fc.Arbitrary<Precision> = fc.oneof(
  { weight: 4, arbitrary: fc.constant<Precision>({ kind: 'as measured' }) },
  fc.record({ kind: fc.constantFrom('half up', 'half even', 'truncated'), places: fc.integer({ min: -1, max: 2 }) }) as fc.Arbitrary<Precision>,
)
const blank = fc.constantFrom('hold', 'pass', null)

function input(name: string, type: Input['type'], change: Partial<Input> = {}): fc.Arbitrary<Input> {
  return fc.tuple(blank, precision).map(([blank, precision]) => ({
    name, type, isSet: false, unit: '', source: { kind: 'given' }, expected: null, precision: type === 'number' ? precision : { kind: 'as measured' }, tolerance: null, blank, ...change,
  }))
}

const inputs: fc.Arbitrary<Input[]> = fc.tuple(
  input('Height', 'number'), input('Trunk', 'number'), input('Species', 'text'), input('Due', 'date'), input('Dead', 'boolean'),
  input('Modules', 'number', { isSet: true, precision: { kind: 'as measured' } }),
  input('Ratio', 'number', { source: { kind: 'figure', feel: 'Height / Trunk' } }),
  input('Late by', 'number', { source: { kind: 'figure', feel: '(today() - Due).days' } }),
)

const test = fc.oneof(
  fc.tuple(fc.constantFrom('Height', 'Trunk', 'Ratio', 'mean(Modules)', 'max(Modules)', 'Height - Trunk', 'Height * 3', 'abs(Height)', 'Late by', 'sum([Height, Trunk])'), fc.constantFrom('<', '<=', '=', '!=', '>=', '>'), crowded).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('Height', 'Trunk', 'Ratio'), fc.constantFrom('[', '('), crowded, crowded, fc.constantFrom(']', ')')).map(([name, open, a, b, close]) => {
    const [low, high] = new Decimal(a).lte(b) ? [a, b] : [b, a]
    return `${name} in ${open}${low}..${high}${close}`
  }),
  fc.tuple(fc.constantFrom('Height', 'Trunk'), crowded, crowded).map(([name, a, b]) => `${name} in (${a}, > ${b})`),
  fc.tuple(fc.constantFrom('<', '>='), fc.constantFrom('Trunk', 'Trunk * 2')).map(([operator, other]) => `Height ${operator} ${other}`),
  texts.map((text) => `Species = "${text}"`), texts.map((text) => `Species != "${text}"`), fc.constant('Species in ("oak", "ash")'), fc.constant('starts with(Species, "o")'),
  dates.map((date) => `Due < @"${date}"`), fc.constant('Due <= today()'), dates.map((date) => `Due = @"${date}"`),
  fc.constantFrom('Dead', 'Dead = false', 'Height = null', 'Species != null', 'Ratio = null', 'string length(Species) > Height', 'true', 'count(Modules) > 1'),
)
const condition = fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' },
    test,
    fc.tuple(tie('node'), fc.constantFrom('and', 'or'), tie('node')).map(([a, word, b]) => `(${a} ${word} ${b})`),
    tie('node').map((inner) => `not(${inner})`),
  ),
})).node

const label: fc.Arbitrary<Entry> = fc.constantFrom<Entry>({ is: 'a' }, { is: 'b' }, { is: 'c' })
const points: fc.Arbitrary<Entry> = fc.oneof({ weight: 6, arbitrary: fc.constantFrom<Entry>({ is: '1' }, { is: '2' }) }, fc.constantFrom<Entry>({ feel: 'Height' }, { feel: '1' }, null))

const look = { colour: '#7fa99a', mark: 'disc' as const, rank: null }
const outcomes: Gate['outcomes'] = [
  { name: 'Label', type: 'text', labels: ['b', 'a'].map((value) => ({ value, ...look })) },
  { name: 'Points', type: 'number', labels: [] },
]
const entries = fc.tuple(label, points).map((pair): Entry[] => pair)

export function rulesGates(policies: fc.Arbitrary<HitPolicy>): fc.Arbitrary<RulesGate> {
  return fc.record({
    inputs, hitPolicy: policies,
    rules: fc.array(fc.record({ condition, entries, note: fc.constant('') }), { maxLength: 6 }),
    otherwise: fc.option(entries, { nil: null }),
  }).map((parts) => ({ schema: 1, form: 'rules', name: 'Random', outcomes, ...parts }))
}

/** A gate of one outcome, a number, for policies that add up. */
export function pointsGates(policies: fc.Arbitrary<HitPolicy>): fc.Arbitrary<RulesGate> {
  return rulesGates(policies).map((gate) => ({
    ...gate, outcomes: [outcomes[1]!], rules: gate.rules.map((rule) => ({ ...rule, entries: rule.entries.slice(1) })), otherwise: gate.otherwise && gate.otherwise.slice(1),
  }))
}

const cuts = fc.uniqueArray(crowded, { maxLength: 5 }).chain((values) => fc.array(fc.constantFrom<'below' | 'above'>('below', 'above'), { minLength: values.length, maxLength: values.length })
  .map((owners) => values.toSorted((a, b) => new Decimal(a).cmp(b)).map((at, index) => ({ at, owner: owners[index]! }))))
const ends = fc.record({ floor: fc.option(fc.boolean().map((included) => ({ at: '-9', included })), { nil: null }), ceiling: fc.option(fc.boolean().map((included) => ({ at: '99999999', included })), { nil: null }) })
const head = { schema: 1 as const, name: 'Random', outcomes }

export const formGates: fc.Arbitrary<Gate> = fc.oneof(
  fc.tuple(inputs, fc.constantFrom('Height', 'Ratio', 'Late by'), cuts, ends, fc.array(entries, { minLength: 6, maxLength: 6 }), fc.option(entries, { nil: null }))
    .map(([inputs, on, cuts, ends, all, otherwise]): Gate => ({ ...head, form: 'scale', inputs, on, cuts, ...ends, bands: all.slice(0, cuts.length + 1).map((entries) => ({ entries })), otherwise })),
  fc.tuple(inputs, fc.boolean(), fc.array(entries, { minLength: 2, maxLength: 2 }), fc.option(entries, { nil: null }))
    .map(([inputs, folds, all, otherwise]): Gate => ({ ...head, form: 'match', inputs, on: 'Species', folds, lines: [{ values: ['oak', 'ash'], entries: all[0]! }, { values: ['silver  Birch'], entries: all[1]! }], otherwise })),
  fc.tuple(inputs, cuts, ends, fc.array(fc.option(entries, { nil: null }), { minLength: 12, maxLength: 12 }), fc.option(entries, { nil: null }))
    .map(([inputs, cuts, ends, all, otherwise]): Gate => ({
      ...head, form: 'grid', inputs, otherwise,
      down: { kind: 'list', on: 'Dead', folds: false, lines: [['true'], ['false']] },
      across: { kind: 'scale', on: 'Height', cuts, ...ends },
      cells: [0, 6].map((from) => all.slice(from, from + cuts.length + 1)),
    })),
)

const numberCell: fc.Arbitrary<Cell> = fc.oneof({ weight: 6, arbitrary: crowded }, fc.constant(null), fc.constant({ unreadable: 'n/a' }))
/** Inputs, tests and results beyond what other languages can be given: everything that the core has a quick way for, or none. */
const wideInputs: fc.Arbitrary<Input[]> = fc.tuple(
  inputs,
  input('Since', 'date'), input('Seen', 'date and time'), input('Since then', 'number', { source: { kind: 'figure', feel: '(Due - Since).days' } }),
  input('Loss', 'number', { source: { kind: 'figure', feel: 'Height - Trunk' } }),
  input('Best', 'number', { source: { kind: 'figure', feel: 'max(Height, Trunk)' } }),
  input('Chosen', 'number', { source: { kind: 'figure', feel: 'if Height > 1 then Trunk else 0.3' } }),
  input('Marks', 'number', { isSet: true }),
).map(([all, ...more]) => [...all, ...more])

const moments = fc.constantFrom('2026-03-01T10:00:00', '2026-03-01T10:00:00Z', '2026-03-02T00:00:00')
const compared = fc.constantFrom('<', '<=', '=', '!=', '>=', '>')
const wideTest = fc.oneof(
  fc.tuple(fc.constantFrom('Loss', 'Best', 'Chosen', 'Since then', 'max(Height, Trunk)', 'min([Height, Trunk, 0.3])', 'mean([Height, Trunk])', 'median([Height, Trunk, 12])', 'median(Modules)', 'sum(Marks) / count(Marks)', 'mean(Marks)', 'count(Modules[item >= 0.3])', 'count(Marks)', 'max(Modules) - min(Modules)', 'Loss * 2', 'Height + Ratio'), compared, crowded).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('Height', 'Loss', 'Height * 2'), compared, fc.constantFrom('Trunk', 'Trunk + Trunk', 'Best', 'Chosen')).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('Modules', 'Marks'), fc.constantFrom('<', '<=', '>', '>='), crowded, fc.constantFrom('<', '<=', '>', '>=', '='), fc.constantFrom('0', '1', '1.5', '2', '3', '4')).map(([set, by, value, operator, count]) => `count(${set}[item ${by} ${value}]) ${operator} ${count}`),
  fc.tuple(fc.constantFrom('some', 'every'), fc.constantFrom('[Height, Trunk]', 'Modules', 'Marks', '[Loss, Best]'), compared, crowded).map(([kind, over, operator, value]) => `(${kind} i in ${over} satisfies i ${operator} ${value})`),
  crowded.map((value) => `if Height > ${value} then true else Trunk > 0.3`), crowded.map((value) => `if Dead then Height > ${value} else Height > 0.1`),
  crowded.map((value) => `(if Trunk = null then 0 else Trunk) + Height > ${value}`), fc.constant('if Species = null then Dead else Height > 0.3'),
  fc.tuple(fc.constantFrom('Due', 'Due + @"P1D"', 'Due - @"PT30H"', '@"P2D" + Due'), compared, fc.constantFrom('Since', 'Since + @"P1D"', 'today()')).map((parts) => parts.join(' ')),
  fc.tuple(fc.constantFrom('Due - Since', 'Since - Due'), compared, fc.constantFrom('@"P1D"', '@"PT0S"', '-@"PT36H"')).map((parts) => parts.join(' ')),
  fc.tuple(compared, moments).map(([operator, at]) => `Seen ${operator} @"${at}"`), moments.map((at) => `Seen in (@"${at}", > @"2026-03-02T00:00:00")`),
  fc.constantFrom('Species in ("oak".."oak")', 'Species in ["oak".."oak"]', 'not(Species between "oak" and "oak")', 'Species < "oak"', 'Species in (starts with(?, "o"), "ash")', 'Species in (null, "oak")', 'ends with(Species, "k")', 'contains(Species, "birch")', 'Best = null', 'Loss != null', 'Since = Due', 'Height in (> Trunk)', 'Height in (? > Trunk, 12)', 'Height in [Trunk..70]', 'is(Height, Trunk)', 'Height instance of number', '@"2026-03-02" = today()'),
)
const wideCondition = fc.letrec<{ node: string }>((tie) => ({
  node: fc.oneof({ depthSize: 'small' },
    { weight: 3, arbitrary: wideTest }, test,
    fc.tuple(tie('node'), fc.constantFrom('and', 'or'), tie('node')).map(([a, word, b]) => `(${a} ${word} ${b})`),
    tie('node').map((inner) => `not(${inner})`),
  ),
})).node
const wideLabel = fc.oneof({ weight: 4, arbitrary: label }, fc.constantFrom<Entry>({ feel: 'if Trunk > 0.3 then "a" else "b"' }, { feel: 'if Height = null then "a" else "b"' }, { feel: 'Species' }))
const widePoints = fc.oneof({ weight: 4, arbitrary: points }, fc.constantFrom<Entry>({ feel: 'max(Height, Trunk)' }, { feel: 'Ratio' }, { feel: 'if Trunk > 0.3 then 1 else 1' }))
const wideEntries = fc.tuple(wideLabel, widePoints).map((pair): Entry[] => pair)

export function wideGates(policies: fc.Arbitrary<HitPolicy>): fc.Arbitrary<RulesGate> {
  return fc.record({
    inputs: wideInputs, hitPolicy: policies,
    rules: fc.array(fc.record({ condition: wideCondition, entries: wideEntries, note: fc.constant('') }), { maxLength: 6 }),
    otherwise: fc.option(wideEntries, { nil: null }),
  }).map((parts) => ({ schema: 1, form: 'rules', name: 'Random', outcomes, ...parts }))
}

const record = fc.tuple(numberCell, numberCell, fc.option(texts, { nil: null, freq: 6 }), fc.option(dates, { nil: null, freq: 6 }), fc.option(fc.constantFrom('true', 'false'), { nil: null, freq: 6 }), fc.array(numberCell, { minLength: 3, maxLength: 3 }), fc.option(dates, { nil: null, freq: 6 }), fc.option(moments, { nil: null, freq: 6 }))

export function tablesUpTo(maxLength: number): fc.Arbitrary<Table> {
  return fc.array(record, { maxLength }).map(tableOf)
}

function tableOf(records: (typeof record extends fc.Arbitrary<infer One> ? One : never)[]): Table {
  const dictionary = (type: DictionaryColumn['type'], place: 2 | 3 | 4 | 6 | 7) => dictionaryColumn(type, records.map((one) => one[place]))
  return {
    length: records.length,
    columns: new Map<string, Table['columns'] extends ReadonlyMap<string, infer Column> ? Column : never>([
      ['Height', numberColumn(records.map((one) => one[0]))],
      ['Trunk', numberColumn(records.map((one) => one[1]))],
      ['Species', dictionary('text', 2)],
      ['Due', dictionary('date', 3)],
      ['Dead', dictionary('boolean', 4)],
      ['Since', dictionary('date', 6)],
      ['Seen', dictionary('date and time', 7)],
      ['Marks', [2, 0].map((member) => numberColumn(records.map((one) => one[5][member]!)))],
      ['Modules', [0, 1, 2].map((member) => numberColumn(records.map((one) => one[5][member]!)))],
    ]),
  }
}

export const tables = tablesUpTo(70)
