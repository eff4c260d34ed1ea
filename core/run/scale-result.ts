/** One scale on one column: who is where, how many, and who lies on a cut. */
import { conditionOf } from '../rule/condition'
import { type TableDecider, tableDecider } from '../bulk/decide-table'
import type { Decisions } from '../bulk/decisions'
import type { ScaleGate } from '../gate/document'
import { literalNode, nameNode } from '../rule/literal'
import { lowered } from '../rule/lower'
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

/** A scale on a measured number asks for no day. */
const ANY_DAY = { kind: 'date', day: 0 } as const
const NOWHERE = { from: 0, to: 0 }

/** Gives results for one column; a moved cut costs a look at the values beside it, and no more. */
export function scaleDecider(column: NumberColumn): (gate: ScaleGate) => ScaleResult {
  // Whatever the input is called, it is this column.
  let known: { on: string; decider: TableDecider } | null = null
  return (gate) => {
    if (known?.on !== gate.on) known = { on: gate.on, decider: tableDecider({ length: column.length, columns: new Map([[gate.on, column]]) }, ANY_DAY) }
    const { decider } = known
    const ready = lowered(gate)
    const equal = (at: string) => conditionOf({ kind: 'comparison', operator: '=', left: nameNode(gate.on), right: literalNode(at, 'number')!, span: NOWHERE })
    return { decisions: decider.decide(ready), onCut: gate.cuts.map(({ at }) => decider.trueFor(ready, equal(at))) }
  }
}

export function scaleCounts(column: NumberColumn, { decisions, onCut }: ScaleResult): ScaleCounts {
  return {
    records: column.length,
    bands: decisions.counts.caught,
    held: decisions.counts.held,
    unplaced: decisions.counts.unplaced,
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
