/** Counts of a table decided in parts. */
import type { ScaleGate } from '../gate/document'
import type { ScaleCounts } from './scale-result'

export function noCounts(gate: ScaleGate): ScaleCounts {
  return { records: 0, bands: gate.bands.map(() => 0), held: 0, unplaced: 0, onCut: gate.cuts.map(() => 0), blank: 0, unreadable: 0 }
}

export function addCounts(a: ScaleCounts, b: ScaleCounts): ScaleCounts {
  const sum = (some: number[], others: number[]) => some.map((count, at) => count + others[at]!)
  return {
    records: a.records + b.records,
    bands: sum(a.bands, b.bands),
    held: a.held + b.held,
    unplaced: a.unplaced + b.unplaced,
    onCut: sum(a.onCut, b.onCut),
    blank: a.blank + b.blank,
    unreadable: a.unreadable + b.unreadable,
  }
}
