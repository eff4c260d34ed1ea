/** A gate as a document: what is stored, sent and kept in files. Plain data; the contract checks its shape. */
import type { DecimalText } from '../value/number'
import type { ValueKind } from '../value/value'
import type { Bound } from './interval'
import type { Mark } from './mark'

/** What a gate looks at. Conditions refer to it by its name. */
export interface Input {
  name: string
  type: ValueKind
  /** A column set: the list of its members' values, blanks left out. */
  isSet: boolean
  /** Written after every value; empty where there is none. */
  unit: string
  source: InputSource
  expected: Expected | null
  precision: Precision
  /** How near to a cut a number still counts as beside it, in the input's unit, or as `2%` in parts of the cut; null where only what is exactly on it is told. */
  tolerance: DecimalText | `${DecimalText}%` | null
  /** What an unknown condition means: `hold` the record, or let it `pass` as not true (DMN's way). Null where nobody said: it holds. */
  blank: BlankPolicy | null
}

export type InputSource =
  /** A column of the table, bound when the gate is applied. */
  | { kind: 'given' }
  /** Computed from other inputs. */
  | { kind: 'figure'; feel: string }
  /** What another gate gives the record: its label where `outcome` is null. */
  | { kind: 'gate'; gate: string; outcome: string | null }

/** The values that are possible at all, in canonical text. */
export type Expected = { kind: 'range'; low: Bound | null; high: Bound | null } | { kind: 'list'; values: string[] }

/** How a number is brought to `places` after its point before any test; `as measured` leaves it. */
export type Precision = { kind: 'as measured' } | { kind: 'half up' | 'half even' | 'truncated'; places: number }

export type BlankPolicy = 'hold' | 'pass'

/** A result column. The first of a gate is its label. */
export interface OutcomeColumn {
  name: string
  type: ValueKind
  /** The values it can take, the highest priority first (DMN 1.5 clause 8.2.9), each with its look; may be empty. */
  labels: Label[]
}

export interface Label {
  /** Canonical text. */
  value: string
  /** `#rrggbb`. */
  colour: string
  /** The label's own small shape: colour is never the only sign. */
  mark: Mark
  /** Where it stands among the others, for labels that rise or fall; null where they have no order. */
  rank: number | null
}

/** What a rule gives one outcome column: a value in canonical text, an expression over the inputs, or nothing. */
export type Entry = { is: string } | { feel: string } | null

/** A record kept with its gate, and what it should get: checked whenever the gate changes. */
export interface Example {
  /** By input, also of gates that feed, in canonical text; members of a set parted by `;`. What is missing is blank. */
  values: Record<string, string>
  /** Null: it should get no label. */
  label: string | null
}

/** Something that analysis says of a gate and that is meant to be so. */
export interface Meant {
  /** The finding as it was told. */
  finding: string
  /** What tells it from other findings. */
  key: string
}

interface GateHead {
  /** The version of this document's shape. */
  schema: 1
  name: string
  inputs: Input[]
  /** At least one. */
  outcomes: OutcomeColumn[]
  /** The deliberate catch-all, one entry an outcome; null where there is none. */
  otherwise: Entry[] | null
  examples?: Example[]
  meant?: Meant[]
  /** Those that it knows, used by its rules or not. */
  conditions?: SharedCondition[]
}

/** A point on the input's axis, in canonical text, and the side that its own value belongs to. */
export interface Cut {
  at: string
  owner: 'below' | 'above'
}

/** Ascending cuts, and where the scale ends. */
export interface Scale {
  /** The name of an input. */
  on: string
  /** Strictly ascending. */
  cuts: Cut[]
  /** A value beyond is off the scale, and its record unplaced. */
  floor: Bound | null
  ceiling: Bound | null
}

export interface ScaleGate extends GateHead, Scale {
  form: 'scale'
  /** One more than cuts, lowest first. */
  bands: { entries: Entry[] }[]
}

export interface Rule {
  /** FEEL text over inputs and named conditions; `-` or `true` takes every record, and one that nobody has written yet takes none. */
  condition: string
  entries: Entry[]
  /** In people's words; may be empty. */
  note: string
  /** Then it keeps its place and takes nothing, as if it were not there. */
  isOff?: true
}

export const HIT_POLICIES = ['first', 'unique', 'any', 'priority', 'rule order', 'output order', 'collect', 'collect sum', 'collect min', 'collect max', 'collect count'] as const
/** DMN 1.5 clause 8.2.9. */
export type HitPolicy = (typeof HIT_POLICIES)[number]

export interface RulesGate extends GateHead {
  form: 'rules'
  hitPolicy: HitPolicy
  rules: Rule[]
}

/** Values of an input that belong together. */
export interface List {
  on: string
  /** Letters of either case are the same, and so is any run of spaces; spaces at the ends do not count. */
  folds: boolean
}

export interface MatchGate extends GateHead, List {
  form: 'match'
  lines: { values: string[]; entries: Entry[] }[]
}

export type GridSide = ({ kind: 'scale' } & Scale) | ({ kind: 'list'; lines: string[][] } & List)

export interface GridGate extends GateHead {
  form: 'grid'
  down: GridSide
  across: GridSide
  /** By line of `down`, then of `across`; null where the crossing gives nothing. */
  cells: (Entry[] | null)[][]
}

export type Gate = ScaleGate | RulesGate | MatchGate | GridGate

/** A condition written once and used by its name. */
export interface NamedCondition {
  name: string
  /** FEEL text over inputs and other named conditions; one that nobody has written yet holds for no record. */
  feel: string
}

/** One that a gate carries along. Whatever gates carry it have the same text of it, under the same name. */
export interface SharedCondition extends NamedCondition {
  id: string
}

/** What a gate may refer to beside its own inputs. */
export interface Library {
  conditions: NamedCondition[]
  gates: Gate[]
}

export const EMPTY_LIBRARY: Library = { conditions: [], gates: [] }
