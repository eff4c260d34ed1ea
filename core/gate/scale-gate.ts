/** The scale: ascending cuts on one input, with a band below, between and above them. */
import type { DecimalText } from '../value/number'
import type { Bound, Interval } from './interval'
import type { Mark } from './mark'
import type { LabelRules } from './rules'

/** What a gate looks at. A table's column is bound to it by name. */
export interface Input {
  name: string
  type: 'number' | 'percent'
  /** Written after every value; empty where there is none. */
  unit: string
}

/** A point on the input's line, and the side that its own value belongs to. */
export interface Cut {
  at: DecimalText
  owner: 'below' | 'above'
}

export interface Band {
  label: string
  /** `#rrggbb`. */
  colour: string
  /** The label's own small shape: colour is never the only sign. */
  mark: Mark
}

export interface ScaleGate {
  form: 'scale'
  name: string
  input: Input
  /** Strictly ascending. */
  cuts: Cut[]
  /** One more than cuts, lowest first. */
  bands: Band[]
  /** Where the scale ends; a value beyond is off the scale, and its record unplaced. */
  floor: Bound | null
  ceiling: Bound | null
}

/** The stretch of the line that belongs to band `index`. */
export function bandInterval(gate: ScaleGate, index: number): Interval {
  const lower = gate.cuts[index - 1]
  const upper = gate.cuts[index]
  return {
    low: lower ? { at: lower.at, included: lower.owner === 'above' } : gate.floor,
    high: upper ? { at: upper.at, included: upper.owner === 'below' } : gate.ceiling,
  }
}

/** The band that owns the value of cut `index`. */
export function ownerOf(gate: ScaleGate, index: number): Band {
  return gate.bands[gate.cuts[index]!.owner === 'above' ? index + 1 : index]!
}

/** The scale as ordered rules, one a band. Bands of one name share their label. */
export function scaleRules(gate: ScaleGate): LabelRules {
  const labels = [...new Set(gate.bands.map((band) => band.label))]
  return {
    labels,
    rules: gate.bands.map((band, index) => ({
      test: bandInterval(gate, index),
      label: labels.indexOf(band.label),
    })),
  }
}
