/** What moved between two runs, counted where they lie. */
import { type BoundColumns, columnsBound } from '@dime-gate/contract/binding'
import type { Comparison, KeptLanding } from '@dime-gate/contract/comparison'
import type { Differences, Run, RunSummary } from '@dime-gate/contract/run'
import { isComputed } from '@dime-gate/contract/table'
import { isSame } from '@dime-gate/core/gate/is-same'
import { type Queryable, rowsOf } from '../database/database'
import { runRelation } from '../run/run-relation'
import { landedIn, landingOf } from './landed'

interface CountedRow {
  from: string | null
  to: string | null
  records: number
}

export async function compareRuns(on: Queryable, before: Run, after: Run): Promise<Comparison> {
  const rows = await rowsOf<CountedRow>(on, `
    select ${landedIn('was')} as "from", ${landedIn('now')} as "to", count(*)::int as records
    from ${runRelation(before.id)} as was full join ${runRelation(after.id)} as now using (record) group by 1, 2 order by 3 desc, 1, 2`)
  const at = (text: string | null): KeptLanding | null => (text === null ? null : landingOf(text))
  return {
    before: summaryOf(before),
    after: summaryOf(after),
    stayed: rows.filter(({ from, to }) => from === to).map(({ from, records }) => ({ at: landingOf(from!), records })),
    moves: rows.filter(({ from, to }) => from !== to).map(({ from, to, records }) => ({ from: at(from), to: at(to), records })),
    differences: differencesBetween(before, after),
    ranks: after.gate.outcomes[0]!.labels.flatMap(({ value, rank }) => (rank === null ? [] : [{ label: value, rank }])),
  }
}

function summaryOf({ gate: _g, binding: _b, feeding: _f, seen: _s, columns: _c, ...summary }: Run): RunSummary {
  return summary
}

export function differencesBetween(before: Run, after: Run): Differences {
  const [was, now] = [before, after]
  const inputs = [...new Set([...Object.keys(was.binding), ...Object.keys(now.binding)])]
  const names = [...new Set([...was.feeding, ...now.feeding].map(({ gate }) => gate.name))]
  const versionIn = ({ feeding }: Run, name: string) => feeding.find(({ gate }) => gate.name === name)?.version ?? null
  const called = ({ gateName, gateVersion }: Run) => `${gateName}, version ${gateVersion}`
  return {
    gate: was.gateId === now.gateId && was.gateVersion === now.gateVersion ? null : { from: called(was), to: called(now) },
    table: was.tableVersion === now.tableVersion ? null : { from: was.tableVersion, to: now.tableVersion },
    asOf: was.asOf === now.asOf ? null : { from: was.asOf, to: now.asOf },
    binding: inputs.filter((name) => !isSame(bound(was.binding[name]), bound(now.binding[name]))),
    feeding: names.map((name) => ({ name, from: versionIn(was, name), to: versionIn(now, name) })).filter(({ from, to }) => from !== to),
    figures: now.columns.filter((column) => isComputed(column) && was.columns.some((one) => one.id === column.id && (one.feel !== column.feel || !isSame(one.drawn, column.drawn)))).map(({ name }) => name),
  }
}

function bound(one: BoundColumns | undefined): number[] {
  return one ? columnsBound(one) : []
}
