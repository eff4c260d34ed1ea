/** The course: the rules of a gate in order, with what comes to each, and the stream that flows down beside them, drawn to scale. */
import type { Decision } from '@dime-gate/core/decide/decide-record'
import type { HitPolicy } from '@dime-gate/core/gate/document'
import { isOfOneRule } from '@dime-gate/core/rule/rules'
import { count } from '../shared/format'
import { arrivals, type Counts, type FurtherCounts } from '@dime-gate/core/result/counts'

/** One place where records leave the stream. */
export interface Stop {
  /** The rule's place, or what becomes of those that no rule takes. */
  at: number | 'held' | 'contested' | 'rest'
  /** Records that come here, and that leave here. */
  arrives: number
  takes: number
}

/** Where a record leaves the stream that was decided so. */
export function stopFor({ status, rule }: Pick<Decision, 'status' | 'rule'>): Stop['at'] {
  if (status === 'labelled') return rule
  return status === 'held' || status === 'contested' ? status : 'rest'
}

/** In order from the top: what nothing decides leaves first, what no rule takes last. */
export function stopsOf(counts: Counts, hitPolicy: HitPolicy): Stop[] {
  const { records, held, contested, caught } = counts
  // Where each record gets what one rule gives, whatever the order, it is gone once that rule has it.
  const arriving = arrivals(counts, isOfOneRule({ hitPolicy }) ? 'first' : hitPolicy)
  return [
    { at: 'held', arrives: records, takes: held },
    ...(contested > 0 ? [{ at: 'contested' as const, arrives: records - held, takes: contested }] : []),
    ...caught.map((takes, at): Stop => ({ at, arrives: arriving[at]!, takes })),
    { at: 'rest', arrives: counts.otherwise + counts.unplaced, takes: counts.otherwise + counts.unplaced },
  ]
}

export interface Placed extends Stop {
  /** In pixels from the top of the course. */
  top: number
  height: number
}

export interface Branch extends Stop {
  path: string
}

export interface Stream {
  /** Outline of what is still undecided. */
  body: string
  branches: Branch[]
}

/** A branch that takes anything is never thinner. */
const THINNEST = 1.5
/** Room above and below a branch within its row. */
const MARGIN = 4
/** From the top of a row to the mouth of its branch. */
const MOUTH = 3

/**
 * @param stops in order, where they stand
 * @param full pixels that all records are wide
 * @param reach pixels from the stream's left edge to where the branches end
 */
export function streamOf(stops: readonly Placed[], records: number, full: number, reach: number): Stream {
  const wide = (count: number) => (records === 0 ? 0 : (count / records) * full)
  const first = stops[0]
  const last = stops.at(-1)
  if (!first || !last || records === 0) return { body: '', branches: [] }
  const edge: string[] = [`M0 ${first.top} L${r(wide(first.arrives))} ${first.top}`]
  const branches = stops.map((stop): Branch => {
    const [before, after] = [wide(stop.arrives), wide(stop.arrives - stop.takes)]
    const mouth = stop.top + MOUTH
    if (stop !== last) edge.push(`L${r(before)} ${mouth} L${r(after)} ${mouth}`)
    const middle = stop.top + stop.height / 2
    const thick = stop.takes === 0 ? 0 : Math.min(Math.max(before - after, THINNEST), stop.height - 2 * MARGIN)
    const right = Math.max(before, after + THINNEST)
    const [upper, lower] = [middle - thick / 2, middle + thick / 2]
    // What goes nowhere is a line to a closed slot.
    if (thick === 0) return { ...stop, path: `M${r(before)} ${r(middle)} L${reach} ${r(middle)}` }
    return {
      ...stop,
      path: `M${r(after)} ${mouth} L${r(right)} ${mouth} Q${r(right)} ${r(upper)} ${r(Math.min(reach, right + 18))} ${r(upper)} L${reach} ${r(upper)} L${reach} ${r(lower)} L${r(Math.min(reach, right + 18))} ${r(lower)} Q${r(after)} ${r(lower)} ${r(after)} ${mouth} Z`,
    }
  })
  return { body: `${edge.join(' ')} L${r(wide(last.arrives))} ${last.top + MOUTH} L0 ${last.top + MOUTH} Z`, branches }
}

/** @returns what takes nothing as one path, and what takes something as one a fill */
export function branchesByFill(branches: readonly Branch[], fillOf: (at: Stop['at']) => string): { closed: string; open: Map<string, string> } {
  const closed = branches.filter(({ takes }) => takes === 0)
  const open = new Map<string, string[]>()
  for (const { at, takes, path } of branches) {
    if (takes === 0) continue
    const fill = fillOf(at)
    if (open.get(fill)?.push(path) === undefined) open.set(fill, [path])
  }
  return { closed: closed.map(({ path }) => path).join(' '), open: new Map([...open].map(([fill, paths]) => [fill, paths.join(' ')])) }
}

function r(value: number): number {
  return Math.round(value * 100) / 100
}

/** What a rule would take alone, in words, beside what it takes in order. */
export function aloneWords(caught: number | null, alone: number | null): string {
  if (alone === null) return 'alone …'
  return alone === caught ? 'alone the same' : `alone ${count(alone)}`
}

/** The order in which rules that take much alone come last, or first; those that take as many stay in order. */
export function orderByBreadth({ alone }: Pick<FurtherCounts, 'alone'>, first: 'broad' | 'narrow'): number[] {
  const sign = first === 'broad' ? -1 : 1
  return alone.map((_, at) => at).sort((a, b) => sign * (alone[a]! - alone[b]!) || a - b)
}
