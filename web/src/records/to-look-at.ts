/** What of a result should be looked at: trays with how many records are in them. */
import type { Gate } from '@dime-gate/core/gate/document'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import type { Tray } from '@dime-gate/core/result/tray'
import { count } from '../shared/format'
import { toleranceText } from '../shared/words'

export interface LookedAt {
  tray: Tray
  /** Null while it is not known: what several inputs add to it is counted once things come to rest. */
  records: number | null
  remark: string
}

export function toLookAt(gate: Gate, counts: Counts, further: FurtherCounts | null): LookedAt[] {
  const { inputs, edges } = counts
  const sum = (of: 'blank' | 'unreadable' | 'outside') => inputs.reduce((all, one) => all + one[of], 0)
  const isAlone = inputs.length <= 1 && edges.every(({ of }) => of === edges[0]!.of)
  const exactly = (records: number, settled: keyof Omit<FurtherCounts, 'alone' | 'exceptions'>) => (isAlone ? records : (further?.[settled] ?? null))
  const on = edges.reduce((all, one) => all + one.on, 0)
  const beside = edges.reduce((all, { short, past }) => all + short + past, 0)
  const tolerances = gate.inputs.filter(({ tolerance }) => tolerance !== null)
  const all: LookedAt[] = [
    { tray: { kind: 'held' }, records: counts.held, remark: counts.held === 0 ? 'none waits' : isAlone ? `${count(sum('blank'))} blank, ${count(sum('unreadable'))} unreadable` : 'waits for a value' },
    { tray: { kind: 'unplaced' }, records: counts.unplaced, remark: unplacedRemark(gate) },
    { tray: { kind: 'unreadable' }, records: exactly(sum('unreadable'), 'unreadable'), remark: 'text, not a value' },
  ]
  if (gate.form !== 'match') all.push({ tray: { kind: 'on an edge' }, records: exactly(on, 'onEdge'), remark: 'a value equals a cut' })
  if (tolerances.length > 0) all.push({ tray: { kind: 'near an edge' }, records: exactly(beside, 'nearEdge'), remark: `within ${tolerances.map(({ tolerance, unit }) => toleranceText(tolerance!, unit)).join(', ')} of a cut` })
  if (gate.inputs.some(({ expected }) => expected)) all.push({ tray: { kind: 'outside' }, records: exactly(sum('outside'), 'outside'), remark: 'not an expected value' })
  if (gate.form === 'rules' && (gate.hitPolicy === 'unique' || gate.hitPolicy === 'any')) all.push({ tray: { kind: 'contested' }, records: counts.contested, remark: 'rules that disagree are true' })
  return all
}

function unplacedRemark(gate: Gate): string {
  if (gate.otherwise) return 'there is an otherwise'
  if (gate.form === 'scale') return gate.floor || gate.ceiling ? 'beyond an end' : 'it has no ends'
  return 'no rule takes it'
}
