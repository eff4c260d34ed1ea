/**
 * Which records are nearest to getting a label, or to losing it, by another value of one column, or of one figure: those that an
 * expectation which is missed would be mended by first. Proven by deciding, through the gates that feed: a record is told only
 * where the gate says so of that value.
 */
import { inputColumns } from '../bulk/input-columns'
import type { NumberVector } from '../bulk/vector'
import { freeNames } from '../expression/tree'
import { type Probe, probeOf } from '../form/probe'
import type { Gate } from '../gate/document'
import { labelGiven } from '../gate/entries'
import { type Axis, type Region, sizeOf, spaceOf } from '../rule/axes'
import { hasBit, placesOf, unionOf } from '../table/bitmap'
import type { Column } from '../table/table'
import type { DateValue } from '../value/value'
import type { Result } from '../result/result'
import type { Tray } from '../result/tray'
import { labelsAfter, type Moved, type Way } from './labels-after'

type NearestTray = Tray & { kind: 'nearest' }

/** Which lines there are hangs on no day. */
const ANY_DAY: DateValue = { kind: 'date', day: 0 }
/** So many values are tried at most: what lies further off than these is not looked for. */
const MOST_TRIED = 40_000
/** The first step, in spreads of an input; each further one goes twice as far, and the one behind the last as far as it takes. */
const FIRST_REACH = 1 / 1024
const LAST_REACH = 64
/** Values from which the spread of an input is taken, and the shares between which it lies: far ones do not stretch it. */
const SPREAD_OF = 2000
const SPREAD_SHARES = [0.1, 0.9] as const

/**
 * Whether records can be near a label at all: where what they get is a matter of one rule, and something that is looked at on the way lies along a line.
 * @param gates each after those that feed it; the last is asked
 */
export function hasNearness(gates: readonly Gate[]): boolean {
  return probeOf(gates.at(-1)!) !== null && gates.some((gate) => movableLines(gate, ANY_DAY).length > 0)
}

/**
 * @returns places, the nearest first. How far a value has to go counts in relation to the spread of its input, so that inputs of several units are held against each other
 */
export function nearestToLabel(result: Result, { label, isLosing, most }: Pick<NearestTray, 'label' | 'isLosing' | 'most'>): Uint32Array {
  const { ready: { gate }, on: { table } } = result
  if (!probeOf(gate) || most <= 0) return new Uint32Array()
  const lines = linesOf(result)
  const isOtherwise = gate.otherwise ? labelGiven(gate.otherwise) === label : false
  const own = unionOf([result.places({ kind: 'label', label }), ...(isOtherwise ? [result.places({ kind: 'otherwise' })] : [])], table.length)
  const candidates = Array.from({ length: table.length }, (_, at) => at).filter((at) => hasBit(own, at) === isLosing)
  const found = new Map<number, number>()
  let tried = 0
  for (let [from, to] = [-1, FIRST_REACH]; from < Infinity && found.size < most && tried < MOST_TRIED; [from, to] = [to, to < LAST_REACH ? 2 * to : Infinity]) {
    const left = candidates.filter((at) => !found.has(at))
    const steps = lines.flatMap((line) => stepsWithin(line, left, from, to)).sort((one, other) => one.far - other.far || one.at - other.at).slice(0, MOST_TRIED - tried)
    tried += steps.length
    const after = labelsAfter(result, steps)
    steps.forEach(({ at, far }, step) => {
      if ((after[step] === label) !== isLosing && !found.has(at)) found.set(at, far)
    })
  }
  return Uint32Array.from([...found.keys()].slice(0, most))
}

/** What feeds a gate is not moved by itself, but by what its own gate looks at. */
function movableLines(gate: Gate, today: DateValue): Axis[] {
  const probe = probeOf(gate, today)
  const isFed = (name: string) => gate.inputs.find((input) => input.name === name)!.source.kind === 'gate'
  return probe ? linesIn(probe, today).filter(({ name }) => !isFed(name)) : []
}

function linesOf({ on: { table, today, gates, tables } }: Result): Line[] {
  return gates.flatMap(({ gate, lowered }, place) => {
    // What feeds the gate that is asked is in its table already; figures of others that hang on what feeds them are left out.
    const own = place === gates.length - 1 ? table : tables(gate.name)
    const sources = inputColumns(own, lowered, today)
    return movableLines(gate, today).flatMap((axis): Line[] => {
      const vector = sources.input(axis.name)
      const isGiven = lowered.inputs.get(axis.name)?.source.kind === 'given'
      return vector ? [lineOf(axis, vector, isGiven ? { column: own.columns.get(axis.name) as Column } : { gate: gate.name, figure: axis.name })] : []
    })
  })
}

/** Inputs along which a record can be moved by itself: no expression looks at them in another way. */
function linesIn(probe: Probe, today: DateValue): Axis[] {
  const { axes } = spaceOf(probe.lowered, today)
  const mixed = new Set(axes.filter(({ isInput }) => !isInput).flatMap(({ subject }) => freeNames(subject)))
  return axes.filter(({ isInput, isOrdered, name }) => isInput && isOrdered && !mixed.has(name))
}

interface Line {
  axis: Axis
  /** What is moved. */
  way: Way
  vector: NumberVector
  spread: number
  /** By region its ends along the line. */
  ends: [low: number, high: number][]
}

function lineOf(axis: Axis, vector: NumberVector, way: Way): Line {
  const endAt = (value: Region['low'], none: number) => (value === null ? none : sizeOf(value).toNumber())
  return { axis, way, vector, spread: spreadOf(vector), ends: axis.regions.map(({ low, high }) => [endAt(low, -Infinity), endAt(high, Infinity)]) }
}

function spreadOf({ doubles, valid }: NumberVector): number {
  const places = placesOf(valid)
  const some = Float64Array.from({ length: Math.min(SPREAD_OF, places.length) }, (_, at) => doubles[places[Math.floor((at * places.length) / Math.min(SPREAD_OF, places.length))]!]!).sort()
  const [low, high] = SPREAD_SHARES.map((share) => some[Math.floor(share * (some.length - 1))] ?? 0)
  return high! - low! || (some.at(-1) ?? 0) - (some[0] ?? 0) || 1
}

/** A record with the value that it would have there. @property far in spreads of its input */
interface Step extends Moved {
  far: number
}

/** The regions that lie further off than `from` spreads, and no further than `to`. */
function stepsWithin({ axis, way, vector, spread, ends }: Line, places: readonly number[], from: number, to: number): Step[] {
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
      if (far > from && far <= to) steps.push({ at, way, to: region.example, far })
    })
  }
  return steps
}
