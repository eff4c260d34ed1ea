/** The changes that can be made to a grid: to its cells, and to its two sides. Each gives a new grid, or says why it cannot be. */
import type { DecimalText } from '../value/number'
import type { Entry, GridGate, GridSide, Input, Scale } from './document'
import { type CutEdit, type End, type Refusal, withCut, withCutMoved, withCuts, withEnd, withOwner, withOwners } from './edit-cuts'
import { addLabel } from './edit-labels'
import { folded, sideLength } from './form'
import type { Bound } from './interval'

export type SideName = 'down' | 'across'
export type GridEdit = { gate: GridGate } | { refused: Refusal }
/** By its line down, and its line across. */
export type CellPlace = readonly [down: number, across: number]

/** A grid that gives nothing yet. @param inputs what the sides are on */
export function newGrid(name: string, inputs: readonly Input[], down: GridSide, across: GridSide): GridGate {
  const cells = Array.from({ length: sideLength(down) }, () => Array.from({ length: sideLength(across) }, () => null))
  const different = inputs.filter(({ name: own }, at) => inputs.findIndex((one) => one.name === own) === at)
  return { schema: 1, form: 'grid', name, inputs: different, down, across, cells, otherwise: null, outcomes: [{ name: 'Label', type: 'text', labels: [] }] }
}

/** Gives cells a label, or with null nothing at all; what they give beside it stays. */
export function paint(gate: GridGate, places: readonly CellPlace[], label: string | null): GridGate {
  const cells = gate.cells.map((line) => [...line])
  for (const [down, across] of places) {
    const before = cells[down]![across]!
    cells[down]![across] = label === null ? null : [{ is: label }, ...(before ?? gate.outcomes.map(() => null)).slice(1)]
  }
  const painted = { ...gate, cells }
  return label === null ? painted : addLabel(painted, label)
}

/** What a cell gives one of the outcomes beside the label. */
export function giveCell(gate: GridGate, [down, across]: CellPlace, outcome: number, entry: Entry): GridGate {
  const before = gate.cells[down]![across] ?? gate.outcomes.map(() => null)
  return { ...gate, cells: gate.cells.with(down, gate.cells[down]!.with(across, before.with(outcome, entry))) }
}

/** What stood down stands across. */
export function turned(gate: GridGate): GridGate {
  const cells = Array.from({ length: sideLength(gate.across) }, (_, across) => gate.cells.map((line) => line[across]!))
  return { ...gate, down: gate.across, across: gate.down, cells }
}

/** Splits a line in two, both of which give what it gave. */
export function addSideCut(gate: GridGate, side: SideName, at: DecimalText): GridEdit {
  const changed = withCut(scaleOf(gate, side), at)
  return 'refused' in changed ? changed : { gate: withLines(gate, side, (lines) => lines.toSpliced(changed.index + 1, 0, lines[changed.index]!), { kind: 'scale', ...changed.scale }) }
}

/** All cuts of a side anew. Lines keep their order; new ones come after, and give what the last one did. @param cuts strictly ascending */
export function setSideCuts(gate: GridGate, side: SideName, cuts: readonly DecimalText[]): GridEdit {
  const changed = withCuts(scaleOf(gate, side), cuts)
  if ('refused' in changed) return changed
  return { gate: withLines(gate, side, (lines) => Array.from({ length: cuts.length + 1 }, (_, at) => lines[at] ?? lines.at(-1)!), { kind: 'scale', ...changed.scale }) }
}

/** Joins the two lines beside a cut; `keep` says which of them gives what it gave. */
export function removeSideCut(gate: GridGate, side: SideName, index: number, keep: 'below' | 'above'): GridGate {
  const scale = scaleOf(gate, side)
  return withLines(gate, side, (lines) => lines.toSpliced(keep === 'below' ? index + 1 : index, 1), { kind: 'scale', ...scale, cuts: scale.cuts.toSpliced(index, 1) })
}

export function moveSideCut(gate: GridGate, side: SideName, index: number, at: DecimalText): GridEdit {
  return edited(gate, side, withCutMoved(scaleOf(gate, side), index, at))
}

export function setSideOwner(gate: GridGate, side: SideName, index: number, owner: 'below' | 'above'): GridGate {
  return { ...gate, [side]: { kind: 'scale', ...withOwner(scaleOf(gate, side), index, owner) } }
}

export function setSideOwners(gate: GridGate, side: SideName, owner: 'below' | 'above'): GridGate {
  return { ...gate, [side]: { kind: 'scale', ...withOwners(scaleOf(gate, side), owner) } }
}

export function setSideEnd(gate: GridGate, side: SideName, end: End, bound: Bound | null): GridEdit {
  return edited(gate, side, withEnd(scaleOf(gate, side), end, bound))
}

/** Values go into a line of a list, and out of the one that they were in; a line that is left without any goes. @param line null for a new one at the end */
export function sortIntoLine(gate: GridGate, side: SideName, values: readonly string[], line: number | null): GridGate {
  const list = listOf(gate, side)
  const key = (value: string) => (list.folds ? folded(value) : value)
  const moved = new Set(values.map(key))
  const wide = line === null ? withLines(gate, side, (lines) => [...lines, emptyLine(gate, side)], { ...list, lines: [...list.lines, []] }) : gate
  const target = line ?? list.lines.length
  const lines = listOf(wide, side).lines.map((one, at) => [...one.filter((value) => !moved.has(key(value))), ...(at === target ? values : [])])
  const kept = lines.flatMap((one, at) => (one.length > 0 || listOf(wide, side).lines[at]!.length === 0 ? [at] : []))
  return withLines(wide, side, (all) => kept.map((at) => all[at]!), { ...list, lines: kept.map((at) => lines[at]!) })
}

/** A line of a list goes, and what it gives with it. */
export function removeLine(gate: GridGate, side: SideName, line: number): GridGate {
  const list = listOf(gate, side)
  return withLines(gate, side, (lines) => lines.toSpliced(line, 1), { ...list, lines: list.lines.toSpliced(line, 1) })
}

export function moveLine(gate: GridGate, side: SideName, from: number, to: number): GridGate {
  const list = listOf(gate, side)
  const moved = <One>(all: readonly One[]) => all.toSpliced(from, 1).toSpliced(to, 0, all[from]!)
  return withLines(gate, side, moved, { ...list, lines: moved(list.lines) })
}

type Line = GridGate['cells'][number]

/** @param change the lines along a side, each with its cells, as they are to follow one another */
function withLines(gate: GridGate, side: SideName, change: (lines: readonly Line[]) => Line[], is: GridSide): GridGate {
  if (side === 'down') return { ...gate, down: is, cells: change(gate.cells) }
  const { cells } = turned(gate)
  return { ...gate, across: is, cells: turned({ ...gate, down: is, across: gate.down, cells: change(cells) }).cells }
}

function emptyLine(gate: GridGate, side: SideName): Line {
  return Array.from({ length: sideLength(side === 'down' ? gate.across : gate.down) }, () => null)
}

function scaleOf(gate: GridGate, side: SideName): Scale {
  const found = gate[side]
  if (found.kind !== 'scale') throw new Error(`The side ${side} has no cuts.`)
  const { on, cuts, floor, ceiling } = found
  return { on, cuts, floor, ceiling }
}

function listOf(gate: GridGate, side: SideName): GridSide & { kind: 'list' } {
  const found = gate[side]
  if (found.kind !== 'list') throw new Error(`The side ${side} has no values.`)
  return found
}

function edited(gate: GridGate, side: SideName, change: CutEdit): GridEdit {
  return 'refused' in change ? change : { gate: { ...gate, [side]: { kind: 'scale', ...change.scale } } }
}
