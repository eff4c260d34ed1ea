/** How many records came to what: plain data, which is kept with a run, sent, and added up over the parts of a table. */
import type { HitPolicy } from '../gate/document'

/** What is counted with every change of a gate. */
export interface Counts {
  records: number
  /** Records that each rule took, in the order of the rules. */
  caught: number[]
  otherwise: number
  unplaced: number
  held: number
  contested: number
  inputs: InputCounts[]
  /** In the order of what they lie on, then ascending. */
  edges: EdgeCounts[]
}

export interface InputCounts {
  input: string
  /** Neither a value nor a text. */
  blank: number
  /** A text that is no value of the input's kind. */
  unreadable: number
  /** A value that is not expected. */
  outside: number
}

export interface EdgeCounts {
  /** The input, or the expression's text. */
  of: string
  /** The cut, in canonical text. */
  at: string
  /** Records exactly on it, and beside it within the input's tolerance. */
  on: number
  short: number
  past: number
}

/** What takes a look at all rules, or all records, of its own. */
export interface FurtherCounts {
  /** Records that each rule would take if no other stood before it. */
  alone: number[]
  /** Records that someone should look at, whatever the reason; each counted once, as below. */
  exceptions: number
  /** Records with a text that could not be read, and with a value that is not expected, in any input. */
  unreadable: number
  outside: number
  /** Records exactly on any cut, and beside one within a tolerance. */
  onEdge: number
  nearEdge: number
}

export type AllCounts = Counts & FurtherCounts

/** Counts of a table that is decided in parts. @param sum null before the first part */
export function addCounts(sum: AllCounts | null, part: AllCounts): AllCounts {
  return sum ? (added(sum, part) as AllCounts) : part
}

/** Numbers are added, wherever they stand; texts are the same in every part. */
function added(sum: unknown, part: unknown): unknown {
  if (typeof sum === 'number') return sum + (part as number)
  if (Array.isArray(sum)) return sum.map((one, at) => added(one, (part as unknown[])[at]))
  if (typeof sum === 'object') return Object.fromEntries(Object.entries(sum!).map(([key, one]) => [key, added(one, (part as Record<string, unknown>)[key])]))
  return sum
}

/** Records that come down to each rule: with First those that no rule before it took; those that nothing decides have left before. */
export function arrivals({ records, caught, held, contested }: Counts, hitPolicy: HitPolicy): number[] {
  if (hitPolicy !== 'first') return caught.map(() => records)
  let left = records - held - contested
  return caught.map((taken) => {
    const arriving = left
    left -= taken
    return arriving
  })
}
