/** One scale on one column: who is where, how many, and who lies on a cut. */
import { intervalPlaces } from '../gate/interval-places'
import { type Decisions, decideTable } from '../gate/decide-table'
import { type ScaleGate, scaleRules } from '../gate/scale-gate'
import { type Bitmap, bitmapOf, countBits, fullBitmap, unionOf } from '../table/bitmap'
import type { NumberColumn } from '../table/number-column'

export interface ScaleCounts {
  records: number
  /** Records in each band, lowest first. */
  bands: number[]
  held: number
  unplaced: number
  /** Records exactly on each cut. They are counted in their band as well. */
  onCut: number[]
  blank: number
  unreadable: number
}

export interface ScaleResult {
  decisions: Decisions
  /** By cut, the records exactly on it. */
  onCut: Bitmap[]
}

/** Which records are wanted. */
export type Tray =
  | { kind: 'all' }
  | { kind: 'band'; band: number }
  | { kind: 'cut'; cut: number }
  | { kind: 'on-a-cut' }
  | { kind: 'held' }
  | { kind: 'unplaced' }
  | { kind: 'unreadable' }
  | { kind: 'exceptions' }

/** Gives results for one column; moving a cut costs little more than the records it moves over. */
export function scaleDecider(column: NumberColumn): (gate: ScaleGate) => ScaleResult {
  const places = intervalPlaces(column)
  return (gate) => ({ decisions: decideTable(column, places, scaleRules(gate)), onCut: gate.cuts.map(({ at }) => places.equal(at)) })
}

export function scaleCounts(column: NumberColumn, { decisions, onCut }: ScaleResult): ScaleCounts {
  return {
    records: column.length,
    bands: decisions.caught.map(countBits),
    held: countBits(decisions.held),
    unplaced: countBits(decisions.unplaced),
    onCut: onCut.map(countBits),
    blank: column.length - countBits(column.valid) - column.unreadable.size,
    unreadable: column.unreadable.size,
  }
}

/** The records of a tray. */
export function trayRecords(tray: Tray, column: NumberColumn, { decisions, onCut }: ScaleResult): Bitmap {
  const { length, caught, held, unplaced } = decisions
  switch (tray.kind) {
    case 'all':
      return fullBitmap(length)
    case 'band':
      return caught[tray.band]!
    case 'cut':
      return onCut[tray.cut]!
    case 'on-a-cut':
      return unionOf(onCut, length)
    case 'held':
      return held
    case 'unplaced':
      return unplaced
    case 'unreadable':
      return bitmapOf(column.unreadable.keys(), length)
    case 'exceptions':
      return unionOf([held, unplaced, bitmapOf(column.unreadable.keys(), length), ...onCut], length)
  }
}
