/**
 * Which records are nearest to getting a label, or to losing it, by another value of one input: those that an expectation which is
 * missed would be mended by first. Proven by deciding: a record is told only where the gate says so of that value.
 */
import { inputColumns } from '../bulk/input-columns'
import type { NumberVector } from '../bulk/vector'
import { factsOf } from '../decide/facts'
import { freeNames } from '../expression/tree'
import { type Probe, probeOf, type Sample } from '../form/probe'
import type { Gate } from '../gate/document'
import { labelGiven } from '../gate/entries'
import { type Axis, type Region, sizeOf, spaceOf } from '../rule/axes'
import { hasBit, placesOf, unionOf } from '../table/bitmap'
import { recordAt } from '../table/table'
import type { DateValue } from '../value/value'
import type { Result } from '../result/result'
import type { Tray } from '../result/tray'

type NearestTray = Tray & { kind: 'nearest' }

/** Which lines there are hangs on no day. */
const ANY_DAY: DateValue = { kind: 'date', day: 0 }
/** So many values are tried at most: what lies further off than these is not looked for. */
const MOST_TRIED = 40_000
/** The first step, in spreads of an input; each further one goes twice as far. */
const FIRST_REACH = 1 / 1024
const LAST_REACH = 64
/** Values from which the spread of an input is taken, and the shares between which it lies: far ones do not stretch it. */
const SPREAD_OF = 2000
const SPREAD_SHARES = [0.1, 0.9] as const

/** Whether records of a gate can be near a label at all: where what they get is a matter of one rule, and some input of theirs lies along a line. */
export function hasNearness(gate: Gate): boolean {
  const probe = probeOf(gate)
  return probe !== null && linesOf(probe, ANY_DAY).length > 0
}

/**
 * @returns places, the nearest first. How far a value has to go counts in relation to the spread of its input, so that inputs of several units are held against each other
 */
export function nearestToLabel(result: Result, { label, isLosing, most }: Pick<NearestTray, 'label' | 'isLosing' | 'most'>): Uint32Array {
  const { ready: { gate, lowered }, on: { table, today } } = result
  const probe = probeOf(gate, today)
  if (!probe || most <= 0) return new Uint32Array()
  const sources = inputColumns(table, lowered, today)
  const lines = linesOf(probe, today).flatMap((axis) => {
    const vector = sources.input(axis.name)
    return vector ? [lineOf(axis, vector)] : []
  })
  const isOtherwise = gate.otherwise ? labelGiven(gate.otherwise) === label : false
  const own = unionOf([result.places({ kind: 'label', label }), ...(isOtherwise ? [result.places({ kind: 'otherwise' })] : [])], table.length)
  const candidates = Array.from({ length: table.length }, (_, at) => at).filter((at) => hasBit(own, at) === isLosing)
  const sampleAt = (at: number): Sample => {
    const { value } = factsOf(lowered, recordAt(table, at), today)
    return new Map([...lowered.inputs.keys()].map((name) => [name, value(name)]))
  }
  const found = new Map<number, number>()
  let tried = 0
  for (let [from, to] = [-1, FIRST_REACH]; from < LAST_REACH && found.size < most && tried < MOST_TRIED; [from, to] = [to, 2 * to]) {
    const left = candidates.filter((at) => !found.has(at))
    const steps = lines.flatMap((line) => stepsWithin(line, left, from, to)).sort((one, other) => one.far - other.far || one.at - other.at).slice(0, MOST_TRIED - tried)
    tried += steps.length
    const answers = probe.all(steps.map(({ at, axis, region }) => new Map([...sampleAt(at), [axis.name, region.example]])))
    steps.forEach(({ at, far }, step) => {
      const { got } = answers[step]!
      if (('label' in got && got.label === label) !== isLosing && !found.has(at)) found.set(at, far)
    })
  }
  return Uint32Array.from([...found.keys()].slice(0, most))
}

/** Inputs along which a record can be moved by itself: no expression looks at them in another way. */
function linesOf(probe: Probe, today: DateValue): Axis[] {
  const { axes } = spaceOf(probe.lowered, today)
  const mixed = new Set(axes.filter(({ isInput }) => !isInput).flatMap(({ subject }) => freeNames(subject)))
  return axes.filter(({ isInput, isOrdered, name }) => isInput && isOrdered && !mixed.has(name))
}

interface Line {
  axis: Axis
  vector: NumberVector
  spread: number
  /** By region its ends along the line. */
  ends: [low: number, high: number][]
}

function lineOf(axis: Axis, vector: NumberVector): Line {
  const endAt = (value: Region['low'], none: number) => (value === null ? none : sizeOf(value).toNumber())
  return { axis, vector, spread: spreadOf(vector), ends: axis.regions.map(({ low, high }) => [endAt(low, -Infinity), endAt(high, Infinity)]) }
}

function spreadOf({ doubles, valid }: NumberVector): number {
  const places = placesOf(valid)
  const some = Float64Array.from({ length: Math.min(SPREAD_OF, places.length) }, (_, at) => doubles[places[Math.floor((at * places.length) / Math.min(SPREAD_OF, places.length))]!]!).sort()
  const [low, high] = SPREAD_SHARES.map((share) => some[Math.floor(share * (some.length - 1))] ?? 0)
  return high! - low! || (some.at(-1) ?? 0) - (some[0] ?? 0) || 1
}

/** A record with the value that it would have there. @property far in spreads of its input */
interface Step {
  at: number
  axis: Axis
  region: Region
  far: number
}

/** The regions that lie further off than `from` spreads, and no further than `to`. */
function stepsWithin({ axis, vector, spread, ends }: Line, places: readonly number[], from: number, to: number): Step[] {
  const steps: Step[] = []
  for (const at of places) {
    if (!hasBit(vector.valid, at)) continue
    const value = vector.doubles[at]!
    axis.regions.forEach((region, place) => {
      if (!region.isExpected) return
      const [low, high] = ends[place]!
      // Within, or on the point itself: it is there already. An end that is a point by itself belongs to the point.
      if (region.isPoint ? value === low : value > low && value < high) return
      const far = Math.max(low - value, value - high, 0) / spread
      if (far > from && far <= to) steps.push({ at, axis, region, far })
    })
  }
  return steps
}
