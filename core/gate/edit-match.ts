/** The changes that can be made to a match list, whose lines are called trays where they are sorted into. Each gives a new gate. */
import type { Entry, Input, MatchGate } from './document'
import { withLabelsUsed } from './edit-labels'
import { labelGiven } from './entries'
import { folded } from './form'
import { grouped } from '../value/grouped'

/** A list that sorts nothing yet. */
export function newMatch(name: string, input: Input): MatchGate {
  return {
    schema: 1, form: 'match', name, inputs: [input], on: input.name, folds: false, lines: [], otherwise: null,
    outcomes: [{ name: 'Label', type: 'text', labels: [] }],
  }
}

/** What makes two values one on this list. */
export function keyOf({ folds }: Pick<MatchGate, 'folds'>, value: string): string {
  return folds ? folded(value) : value
}

/** By what makes a value one, the place of the tray that it is in. */
export function trayOfValues(gate: Pick<MatchGate, 'folds' | 'lines'>): Map<string, number> {
  return new Map(gate.lines.flatMap(({ values }, tray) => values.map((value): [string, number] => [keyOf(gate, value), tray])))
}

/** @param tray its place; null takes the values out of every tray */
export function sortInto(gate: MatchGate, values: readonly string[], tray: number | null): MatchGate {
  const moved = new Map(values.map((value) => [keyOf(gate, value), value]))
  const lines = gate.lines.map((line, at) => {
    const kept = line.values.filter((value) => !moved.has(keyOf(gate, value)))
    return at === tray ? { ...line, values: [...kept, ...moved.values()] } : { ...line, values: kept }
  })
  return { ...gate, lines }
}

/** One more tray at the end; a label that has a tray already gets no second one. @returns the tray's place */
export function addTray(gate: MatchGate, label: string): { gate: MatchGate; tray: number } {
  const known = gate.lines.findIndex(({ entries }) => labelGiven(entries) === label)
  if (known >= 0) return { gate, tray: known }
  const entries: Entry[] = gate.outcomes.map((_, at) => (at === 0 ? { is: label } : null))
  return { gate: withLabelsUsed({ ...gate, lines: [...gate.lines, { values: [], entries }] }, gate), tray: gate.lines.length }
}

/** Its values are sorted nowhere then, and a label that only it gave goes with it. */
export function removeTray(gate: MatchGate, tray: number): MatchGate {
  return withLabelsUsed({ ...gate, lines: gate.lines.toSpliced(tray, 1) }, gate)
}

export function moveTray(gate: MatchGate, from: number, to: number): MatchGate {
  return { ...gate, lines: gate.lines.toSpliced(from, 1).toSpliced(to, 0, gate.lines[from]!) }
}

/** Of values that folding makes one and that lie in several trays, the first stays. */
export function setFolds(gate: MatchGate, folds: boolean): MatchGate {
  const seen = new Set<string>()
  const isFirst = (value: string) => {
    const key = keyOf({ folds }, value)
    return !seen.has(key) && !!seen.add(key)
  }
  return { ...gate, folds, lines: gate.lines.map((line) => ({ ...line, values: line.values.filter(isFirst) })) }
}

/** A value of several spellings that folding would make one. @property trays where they lie now; null for on none */
export interface Joined {
  values: string[]
  trays: (number | null)[]
}

/** What folding makes one, of the values given and of those that are sorted. */
export function joinedByFolding(gate: MatchGate, values: readonly string[]): Joined[] {
  const places = trayOfValues({ ...gate, folds: false })
  const groups = grouped(new Set([...values, ...gate.lines.flatMap((line) => line.values)]), folded)
  return [...groups.values()].filter(({ length }) => length > 1).map((spellings) => ({ values: spellings, trays: spellings.map((value) => places.get(value) ?? null) }))
}

/** Values with the labels that they are to get, as they stand in two columns; trays are made as they are needed, and a value said twice goes where it is said last. */
export function sortAsListed(gate: MatchGate, pairs: readonly (readonly [value: string, label: string])[]): MatchGate {
  const byLabel = grouped(new Map(pairs.map(([value, label]) => [keyOf(gate, value), { value, label }])).values(), ({ label }) => label)
  return [...byLabel].reduce((sorted, [label, listed]) => {
    const added = addTray(sorted, label)
    return sortInto(added.gate, listed.map(({ value }) => value), added.tray)
  }, gate)
}
