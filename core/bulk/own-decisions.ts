/** Records that their cell does not decide: what they get is computed from their own values. */
import { freeNames } from '../expression/tree'
import { type LoweredEntry, NONE } from '../rule/rules'
import { hasBit } from '../table/bitmap'
import type { Decision } from '../decide/decide-record'
import type { AskedTable } from './asked-table'
import { BY_RECORD } from './cell-decider'
import { codeOf } from './decisions'
import { isMissing } from './input-columns'

/** The decisions of records that their cell does not decide: results that are computed can be open, or the same although they are written differently. */
export function ownDecisions(asked: AskedTable, codeAt: (at: number) => number, hasOwn: boolean, explain: (at: number) => Decision): ReadonlyMap<number, number> {
  const { gate, table } = asked
  const own = new Map<number, number>()
  const rules = gate.rules.length
  const canBeOpen = [...gate.rules.map(({ entries }) => entries), gate.otherwise ?? []].map((entries) => openness(entries, asked))
  if (!hasOwn && canBeOpen.every((one) => one === null)) return own
  for (let at = 0; at < table.length; at++) {
    const code = codeAt(at)
    const isDecided = code >= 0 && (code < rules || code === codeOf('otherwise', NONE, rules))
    if (code !== BY_RECORD && !(isDecided && canBeOpen[Math.min(code, rules)]?.(at))) continue
    const { status, rule } = explain(at)
    own.set(at, codeOf(status, rule, rules))
  }
  return own
}

/** Tells where results that are computed may be open; null where they never are. */
function openness(entries: readonly LoweredEntry[], { gate, table, vectors, givenBehind }: AskedTable): ((at: number) => boolean) | null {
  const names = entries.flatMap((entry) => ('tree' in entry ? freeNames(entry.tree) : []))
  if (names.length === 0) return null
  const given = givenBehind(names)
  // A figure can come to nothing although nothing is missing.
  const figures = names.filter((name) => gate.inputs.get(name)?.figure).map((name) => vectors.input(name)?.valid ?? null)
  return (at) => given.some((name) => isMissing(table, name, at)) || figures.some((valid) => !valid || !hasBit(valid, at))
}
