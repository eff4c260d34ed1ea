/** Which records of a column lie in an interval: kept for each interval, and changed by as little as it changed. */
import { type Bitmap, emptyBitmap } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'
import { countBelow, sortedPlaces } from '../table/sorted-places'
import type { DecimalText } from '../value/number'
import type { Interval } from './interval'

export interface IntervalPlaces {
  /** The records in `interval`, which is not open on both sides. Blanks lie in none. */
  inside(interval: Interval): Bitmap
  /** The records exactly on `value`. */
  equal(value: DecimalText): Bitmap
}

/** In the order of their values, the records from `from` up to, not including, `to`. */
interface Stretch {
  from: number
  to: number
  places: Bitmap
}

export function intervalPlaces(column: NumberColumn): IntervalPlaces {
  const sorted = sortedPlaces(column)
  /** Of the call before: a dragged cut makes stretches that differ from one of these by a few records. */
  let recent: Stretch[] = []
  const MOST_RECENT = 64

  const stretch = (from: number, to: number): Bitmap => {
    const end = Math.max(from, to)
    const nearest = recent.reduce<{ stretch: Stretch | null; changes: number }>((best, candidate) => {
      const changes = Math.abs(candidate.from - from) + Math.abs(candidate.to - end)
      return changes < best.changes ? { stretch: candidate, changes } : best
    }, { stretch: null, changes: end - from })
    if (nearest.changes === 0 && nearest.stretch) return nearest.stretch.places
    const places: Bitmap = nearest.stretch ? { length: column.length, words: nearest.stretch.places.words.slice() } : emptyBitmap(column.length)
    const before = nearest.stretch ?? { from, to: from }
    flip(places, Math.min(before.from, from), Math.max(before.from, from))
    flip(places, Math.min(before.to, end), Math.max(before.to, end))
    recent = [{ from, to: end, places }, ...recent].slice(0, MOST_RECENT)
    return places
  }

  const flip = ({ words }: Bitmap, from: number, to: number) => {
    for (let index = from; index < to; index++) {
      const at = sorted[index]!
      words[at >>> 5]! ^= 1 << (at & 31)
    }
  }

  return {
    inside: ({ low, high }) =>
      stretch(low ? countBelow(column, sorted, low.at, !low.included) : 0, high ? countBelow(column, sorted, high.at, high.included) : sorted.length),
    equal: (value) => stretch(countBelow(column, sorted, value, false), countBelow(column, sorted, value, true)),
  }
}
