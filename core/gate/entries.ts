/** What a gate gives, wherever its form keeps it. */
import type { Entry, Gate, GridGate } from './document'

/** What each rule gives, in the order of the rules that the gate comes to (a grid's cells line by line, those that give nothing left out). */
export function entriesOf(gate: Gate): Entry[][] {
  switch (gate.form) {
    case 'rules': return gate.rules.map(({ entries }) => entries)
    case 'scale': return gate.bands.map(({ entries }) => entries)
    case 'match': return gate.lines.map(({ entries }) => entries)
    case 'grid': return gate.cells.flatMap((line) => line.flatMap((entries) => (entries ? [entries] : [])))
  }
}

/** The gate with other entries in the same places, those of otherwise included. */
export function withEntries<Form extends Gate>(gate: Form, change: (entries: Entry[]) => Entry[]): Form {
  return { ...changed(gate, change), otherwise: gate.otherwise && change(gate.otherwise) } as Form
}

function changed(gate: Gate, change: (entries: Entry[]) => Entry[]): Gate {
  const within = <One extends { entries: Entry[] }>(one: One): One => ({ ...one, entries: change(one.entries) })
  switch (gate.form) {
    case 'rules': return { ...gate, rules: gate.rules.map(within) }
    case 'scale': return { ...gate, bands: gate.bands.map(within) }
    case 'match': return { ...gate, lines: gate.lines.map(within) }
    case 'grid': return { ...gate, cells: gate.cells.map((line) => line.map((entries) => entries && change(entries))) }
  }
}

/** The label that entries give; null where they give none, or one that is computed. */
export function labelGiven(entries: readonly Entry[]): string | null {
  const [entry] = entries
  return entry && 'is' in entry ? entry.is : null
}

/** Where the cell stands that a grid's rule comes from, by the rule's place; cells that give nothing make none. */
export function cellOfRule(gate: GridGate, rule: number): readonly [down: number, across: number] | null {
  return placesOfCells(gate)[rule] ?? null
}

/** The cells that give something, in the order of the rules that they come to. */
export function placesOfCells({ cells }: Pick<GridGate, 'cells'>): (readonly [down: number, across: number])[] {
  return cells.flatMap((line, down) => line.flatMap((entries, across) => (entries ? [[down, across] as const] : [])))
}
