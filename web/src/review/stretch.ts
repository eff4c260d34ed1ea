/** The stretch of a line that shows a value among the cuts of a scale: all cuts, the value, and a little beyond. */
import type { Scale } from '@dime-gate/core/gate/document'

const BEYOND = 0.12

/** @param scale with its places as numbers */
export function stretchOf({ cuts, floor, ceiling }: Pick<Scale, 'cuts' | 'floor' | 'ceiling'>, value: number): { from: number; to: number } {
  const places = [...cuts.map(({ at }) => Number(at)), ...[floor, ceiling].flatMap((end) => (end ? [Number(end.at)] : [])), value]
  const [low, high] = [Math.min(...places), Math.max(...places)]
  const room = high === low ? Math.max(1, Math.abs(high)) : (high - low) * BEYOND
  return { from: low - room, to: high + room }
}
