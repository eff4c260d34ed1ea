/** The gates that the demo has on its benches, one of each form at least, in the order in which they feed each other. */
import type { Gate, GridGate, Input, MatchGate, RulesGate, ScaleGate } from '@dime-gate/core/gate/document'
import type { Bounds, Expected } from '@dime-gate/core/expectation/expectation'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { DECAY_BAND } from './decay-band'
import { FELLING_DECISION, look, plain, STEM_SLENDERNESS } from './gates'

/** Its inputs are named as the columns, and the column sets, of its table are. */
export interface BenchGate {
  document: Gate
  table: string
  /** Whether the demo starts with a run of it. */
  isRun: boolean
  /** What its runs must come to. */
  expected?: { of: Expected; bounds: Bounds }[]
  /** What it says to each record. */
  sentence?: string
}

/** The label's outcome, in the order from the best down, or from the most urgent. */
const label = (labels: readonly string[], palette: 'ordered' | 'good to bad') => ({ name: 'Label', type: 'text' as const, labels: look(labels, palette).map(({ label, colour, mark }, rank) => ({ value: label, colour, mark, rank })) })
const text = (name: string): Input => ({ ...plain, name, type: 'text', source: { kind: 'given' } })

/** Bench gates stand by themselves: what the file says by name is written out here. */
const FELLING: RulesGate = { ...FELLING_DECISION, rules: FELLING_DECISION.rules.map((rule) => ({ ...rule, condition: rule.condition.replace('at risk', 'not(Stands by = "verge")') })) }

const DAYS_LEFT: Input = { ...plain, name: 'Days left', type: 'number', unit: 'days', source: { kind: 'figure', feel: '(Next due - today()).days' } }

/** What is past its date is a label of its own: it must not land in the least urgent one. */
const INSPECTION_PRIORITY: ScaleGate = {
  ...plainScale('Inspection priority', DAYS_LEFT,
    [{ at: '0', owner: 'above' }, { at: '7', owner: 'below' }, { at: '31', owner: 'below' }, { at: '92', owner: 'below' }],
    look(['At the next round', 'This season', 'This month', 'This week', 'Overdue'], 'good to bad').toReversed()),
  inputs: [{ ...plain, name: 'Next due', type: 'date', source: { kind: 'given' } }, DAYS_LEFT],
}

const LEAF_GROUP: MatchGate = {
  schema: 1, form: 'match', name: 'Leaf group', inputs: [text('Species')], on: 'Species', folds: true, outcomes: [label(['Broad leaf, large', 'Broad leaf, small', 'Fan or needle'], 'ordered')],
  lines: [
    { values: ['Common lime', 'London plane', 'Norway maple', 'Common ash', 'Horse chestnut', 'Sycamore', 'Pedunculate oak', 'Sessile oak', 'Black poplar', 'Tulip tree', 'Sweet gum', 'Foxglove tree'], entries: [{ is: 'Broad leaf, large' }] },
    { values: ['Silver birch', 'Hornbeam', 'Field maple', 'Wild cherry', 'Rowan', 'Whitebeam', 'Turkish hazel', 'Small-leaved lime', 'Crab apple'], entries: [{ is: 'Broad leaf, small' }] },
    { values: ['Ginkgo', 'Dawn redwood'], entries: [{ is: 'Fan or needle' }] },
  ],
  otherwise: null,
}

const HAZARD = ['Low', 'Middle', 'High', 'Extreme'] as const
const cell = (hazard: 0 | 1 | 2 | 3) => [{ is: HAZARD[hazard] }]

const HAZARD_GRID: GridGate = {
  schema: 1, form: 'grid', name: 'Hazard grid', inputs: [{ ...givenNumber('Decay', '%'), blank: 'hold' }, text('Stands by')],
  outcomes: [label(HAZARD, 'good to bad')], otherwise: null,
  down: { kind: 'scale', on: 'Decay', cuts: ['12', '25', '40'].map((at) => ({ at, owner: 'above' as const })), floor: { at: '0', included: true }, ceiling: { at: '100', included: true } },
  across: { kind: 'list', on: 'Stands by', folds: false, lines: [['verge'], ['road', 'footway'], ['school', 'play area']] },
  cells: [[cell(0), cell(0), cell(0)], [cell(0), cell(1), cell(1)], [cell(1), cell(2), cell(2)], [cell(2), cell(3), cell(3)]],
}

const MEAN: Input = { ...plain, name: 'Mean', type: 'number', source: { kind: 'figure', feel: 'mean(Modules)' }, tolerance: '0.05', expected: { kind: 'range', low: { at: '0', included: true }, high: { at: '5', included: true } } }

/** Modules that are not taken yet do not count. */
const COURSE_AWARD: ScaleGate = (() => {
  const scale = plainScale('Course award', MEAN, [{ at: '2', owner: 'above' }, { at: '3', owner: 'above' }, { at: '4', owner: 'above' }], look(['Crown', 'Climb', 'Ground', 'Come again'], 'good to bad').toReversed())
  return {
    ...scale, inputs: [{ ...plain, name: 'Modules', type: 'number' as const, isSet: true, source: { kind: 'given' as const } }, MEAN],
    outcomes: [...scale.outcomes.map((outcome) => ({ ...outcome, labels: outcome.labels.map((one, rank) => ({ ...one, rank })) })), { name: 'Points', type: 'number' as const, labels: [] }],
    bands: scale.bands.map(({ entries }, band) => ({ entries: [...entries, { is: String(band) }] })),
  }
})()

/** On completed years: whoever has 7 years and 11 months has 7. */
const CREW_GRADE = plainScale(
  'Crew grade',
  givenNumber('Years of service', 'years'),
  [{ at: '2', owner: 'above' }, { at: '5', owner: 'above' }, { at: '8', owner: 'above' }],
  look(['Crew lead', 'Climber', 'Ground crew', 'First seasons'], 'ordered').toReversed(),
)

/** Three reports and more of one tree are looked into. */
const REPEAT_REPORTS = plainScale('Repeat reports', givenNumber('Reports', ''), [{ at: '1', owner: 'above' }, { at: '3', owner: 'above' }], look(['Quiet', 'Reported', 'Again and again'], 'good to bad'))

/** Of wards, by the share of their trees that are past their date. */
const WARD_STANDING = plainScale('Ward standing', givenNumber('Past their date', '%'), [{ at: '14', owner: 'above' }, { at: '17', owner: 'above' }], look(['Keeping up', 'Falling back', 'Far behind'], 'good to bad'))

/** Of indicators: whether a target is reached, and how far it is missed. */
const TARGET_STANDING = plainScale('Target standing', givenNumber('Beyond target', ''), [{ at: '-5', owner: 'above' }, { at: '0', owner: 'above' }], look(['Reached', 'Nearly', 'Missed'], 'good to bad').toReversed())

const atMost = (high: string, as: Bounds['as'] = 'count'): Bounds => ({ as, low: null, high })

/** Two cells that hold a text make one of these missed: somebody has to look. */
const DECAY_EXPECTED: BenchGate['expected'] = [
  { of: { kind: 'label', label: 'Failing' }, bounds: atMost('15', 'share') },
  { of: { kind: 'label', label: 'Sound' }, bounds: { as: 'share', low: '50', high: null } },
  { of: { kind: 'status', status: 'held' }, bounds: atMost('40') },
  { of: { kind: 'to look at', of: 'unreadable' }, bounds: atMost('0') },
]

const bench = (document: Gate, isRun = false): BenchGate => ({ document, table: 'Street trees', isRun })

export const BENCH_GATES: BenchGate[] = [
  { ...bench(DECAY_BAND, true), expected: DECAY_EXPECTED }, bench(STEM_SLENDERNESS), bench(INSPECTION_PRIORITY), bench(LEAF_GROUP), bench(HAZARD_GRID), bench(FELLING, true),
  { document: COURSE_AWARD, table: 'Climber course', isRun: true, sentence: '{Label}, with a mean of {Mean} out of 5 over the modules that were taken.' },
  { document: CREW_GRADE, table: 'Crews', isRun: false },
]

/** Those that stand on columns which are drawn from elsewhere. */
export const LATER_GATES: BenchGate[] = [
  bench(REPEAT_REPORTS),
  { document: WARD_STANDING, table: 'Wards', isRun: false },
  { document: TARGET_STANDING, table: 'Office indicators', isRun: false },
]
