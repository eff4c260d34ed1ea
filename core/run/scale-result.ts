/** One scale on one column: who is where, how many, and who lies on a cut. */
import { equalPlaces } from '../gate/interval-places'
import { type Decisions, tableDecider } from '../gate/decide-table'
import { HELD, LABELLED, UNPLACED } from '../gate/rules'
import { type ScaleGate, scaleRules } from '../gate/scale-gate'
import { type Bitmap, countBits, emptyBitmap, hasBit } from '../table/bitmap'
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
  onCut: Bitmap[]
  counts: ScaleCounts
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

/** Gives results for one column; what did not change since the call before is not worked out again. */
export function scaleDecider(column: NumberColumn): (gate: ScaleGate) => ScaleResult {
  const decide = tableDecider(column)
  let equal = new Map<string, Bitmap>()
  const blank = column.length - countBits(column.valid) - column.unreadable.size

  return (gate) => {
    const decisions = decide(scaleRules(gate))
    const kept = new Map(gate.cuts.map(({ at }) => [at, equal.get(at) ?? equalPlaces(column, at)]))
    equal = kept
    const onCut = gate.cuts.map(({ at }) => kept.get(at)!)
    return { decisions, onCut, counts: { ...tally(gate, decisions), onCut: onCut.map(countBits), blank, unreadable: column.unreadable.size } }
  }
}

function tally(gate: ScaleGate, { length, status, rule }: Decisions): Pick<ScaleCounts, 'records' | 'bands' | 'held' | 'unplaced'> {
  const bands = gate.bands.map(() => 0)
  let held = 0
  let unplaced = 0
  for (let at = 0; at < length; at++) {
    if (rule[at]! >= 0) bands[rule[at]!]!++
    else if (status[at] === HELD) held++
    else if (status[at] === UNPLACED) unplaced++
  }
  return { records: length, bands, held, unplaced }
}

/** The places of a tray's records, ascending. */
export function trayPlaces(tray: Tray, column: NumberColumn, { decisions, onCut }: ScaleResult): Uint32Array {
  const { status, rule, length } = decisions
  const onAnyCut = unionOf(onCut, length)
  const wanted: (at: number) => boolean = {
    all: () => true,
    band: (at: number) => tray.kind === 'band' && rule[at] === tray.band,
    cut: (at: number) => tray.kind === 'cut' && hasBit(onCut[tray.cut]!, at),
    'on-a-cut': (at: number) => hasBit(onAnyCut, at),
    held: (at: number) => status[at] === HELD,
    unplaced: (at: number) => status[at] === UNPLACED,
    unreadable: (at: number) => column.unreadable.has(at),
    exceptions: (at: number) => status[at] !== LABELLED || column.unreadable.has(at) || hasBit(onAnyCut, at),
  }[tray.kind]
  const places = new Uint32Array(length)
  let count = 0
  for (let at = 0; at < length; at++) if (wanted(at)) places[count++] = at
  return places.slice(0, count)
}

function unionOf(bitmaps: Bitmap[], length: number): Bitmap {
  const union = emptyBitmap(length)
  for (const { words } of bitmaps) for (let i = 0; i < words.length; i++) union.words[i]! |= words[i]!
  return union
}

