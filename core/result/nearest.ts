/** Which records are nearest to getting a label of a scale, or to losing it: those that an expectation which is missed would be mended by first. */
import { inputColumns } from '../bulk/input-columns'
import { labelGiven } from '../gate/entries'
import { numberOnLine } from '../gate/scale-axis'
import { isLineScale } from '../gate/scale-gate'
import { hasBit, placesOf } from '../table/bitmap'
import type { Result } from './result'

const SECONDS_A_DAY = 86_400

/**
 * @param isLosing whether those that have it are meant, and not those that have another, or none
 * @returns places, those first whose values are least far from where the label begins or ends; none for a gate that is no scale
 */
export function nearestToLabel(result: Result, label: string, isLosing: boolean): Uint32Array {
  const { ready: { gate, lowered }, on: { table, today } } = result
  if (!isLineScale(gate)) return new Uint32Array()
  const vector = inputColumns(table, lowered, today).input(gate.on)
  if (!vector) return new Uint32Array()
  const gives = gate.bands.map(({ entries }) => labelGiven(entries) === label)
  const turns = [
    ...gate.cuts.flatMap(({ at }, cut) => (gives[cut] !== gives[cut + 1] ? [at] : [])),
    // Beyond an end nobody gets any label.
    ...(gate.floor && gives[0] ? [gate.floor.at] : []), ...(gate.ceiling && gives.at(-1) ? [gate.ceiling.at] : []),
  ].map((at) => Number(numberOnLine(at, vector.kind)))
  if (turns.length === 0) return new Uint32Array()
  const own = result.places({ kind: 'label', label })
  const unit = vector.kind === 'days and time duration' ? SECONDS_A_DAY : 1
  const distance = (at: number) => Math.min(...turns.map((turn) => Math.abs(vector.doubles[at]! / unit - turn)))
  const distances = new Float64Array(table.length)
  // Records without a value are not far from anything: nobody knows.
  const places = placesOf(vector.valid).filter((at) => hasBit(own, at) === isLosing)
  for (const at of places) distances[at] = distance(at)
  return places.sort((one, other) => distances[one]! - distances[other]! || one - other)
}
