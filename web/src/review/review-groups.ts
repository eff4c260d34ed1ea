/** The exceptions in the order in which they are listed, and the groups that they fall into. */
import { LAPSED, type ReviewRun } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS, type ExceptionKind } from '@dime-gate/core/result/exception'

export const GROUPINGS = ['reason', 'gate', 'table', 'person'] as const
export type Grouping = (typeof GROUPINGS)[number]

/** Where an exception is found. */
export interface ExceptionPlace {
  runId: number
  record: number
}

/** @property start the place of its first exception in the list @property of its kind, or that it lapsed; or the id of the gate, the table, or the person whom it waits for */
export interface ExceptionGroup {
  of: ExceptionKind | 'lapsed' | number
  start: number
  records: number
}

/** What the server lists: three numbers an exception (see the contract). */
export class ExceptionOrder {
  constructor(private readonly numbers: Int32Array = new Int32Array()) {}

  get length(): number {
    return this.numbers.length / 3
  }

  at(place: number): ExceptionPlace {
    return { runId: this.numbers[3 * place]!, record: this.numbers[3 * place + 1]! }
  }

  /** -1 where it is not listed. */
  placeOf({ runId, record }: ExceptionPlace): number {
    for (let place = 0; place < this.length; place++) if (this.numbers[3 * place] === runId && this.numbers[3 * place + 1] === record) return place
    return -1
  }

  /** Exceptions that stand beside one another and have the same in common. */
  groups(by: Grouping, runs: readonly ReviewRun[]): ExceptionGroup[] {
    const ofRun = new Map(runs.map(({ id, gateId, tableId }) => [id, by === 'gate' ? gateId : tableId]))
    const groups: ExceptionGroup[] = []
    for (let place = 0; place < this.length; place++) {
      const code = this.numbers[3 * place + 2]!
      const of = by === 'person' ? code : by !== 'reason' ? (ofRun.get(this.numbers[3 * place]!) ?? 0) : code === LAPSED ? 'lapsed' : EXCEPTION_KINDS[code]!
      const last = groups.at(-1)
      if (last?.of === of) last.records++
      else groups.push({ of, start: place, records: 1 })
    }
    return groups
  }
}

/** What the server is asked to list by. */
export const LISTED_BY = { reason: 'kind', gate: 'run', table: 'run', person: 'person' } as const satisfies Record<Grouping, string>

/** Runs in the order in which groups of gates, or of tables, follow each other: by name. */
export function runsInOrder(runs: readonly ReviewRun[], by: Grouping): number[] {
  const name = by === 'table' ? (run: ReviewRun) => [run.tableName, run.gateName] : (run: ReviewRun) => [run.gateName, run.tableName]
  return runs.toSorted((a, b) => name(a)[0]!.localeCompare(name(b)[0]!) || name(a)[1]!.localeCompare(name(b)[1]!) || a.id - b.id).map(({ id }) => id)
}

/** A line of the list: the head of a group, or an exception. */
export type ListLine = { kind: 'head'; group: ExceptionGroup } | { kind: 'exception'; place: number }

/** @param index of the line, heads counted */
export function lineAt(groups: readonly ExceptionGroup[], index: number): ListLine | null {
  let [low, high] = [0, groups.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (groups[middle]!.start + middle <= index) low = middle
    else high = middle - 1
  }
  const group = groups[low]
  if (!group) return null
  const within = index - group.start - low
  return within === 0 ? { kind: 'head', group } : { kind: 'exception', place: group.start + within - 1 }
}

/** The line on which an exception stands. */
export function lineOf(groups: readonly ExceptionGroup[], place: number): number {
  return place + groups.filter(({ start }) => start <= place).length
}
