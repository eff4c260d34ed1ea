/** What residents report of street trees: several of some, none of most, and two of trees that there are none of. */
import { chance, dayFromAsOf } from './chance'

export const REPORT_COLUMNS = ['Report no', 'Tree no', 'Received', 'Kind']

const REPORTS = 930
const TREES = 1240
const KINDS = [
  ['dead wood', 24],
  ['blocks light', 20],
  ['roots in the footway', 18],
  ['branch fallen', 16],
  ['leans', 12],
  ['fungus', 10],
] as const
/** By report, the number of a tree that does not exist. */
const STRAY: Record<number, number> = { 212: 1271, 640: 1304 }

export function* residentReports(seed = 930): Generator<string[]> {
  const luck = chance(seed)
  let days = -730
  for (let report = 1; report <= REPORTS; report++) {
    days = Math.min(-1, days + (luck.share() < 0.78 ? 1 : 0))
    // A few trees are reported again and again.
    const tree = STRAY[report] ?? (luck.share() < 0.25 ? luck.whole(1, 60) : luck.whole(1, TREES))
    yield [`R${String(report).padStart(4, '0')}`, String(tree).padStart(4, '0'), dayFromAsOf(days), luck.weighted(KINDS)]
  }
}
