/** What moved between two runs, counted where they lie. */
import { type BoundColumns, columnsBound } from '@dime-gate/contract/binding'
import type { Comparison, KeptLanding } from '@dime-gate/contract/comparison'
import type { Differences, Run, RunSummary } from '@dime-gate/contract/run'
import { isComputed } from '@dime-gate/contract/table'
import { isSame } from '@dime-gate/core/gate/is-same'
import { type Database, joinedRows } from '../database/database'
import { landingsOfBoth, landingText, NO_RECORD, type RunLandings } from '../run/run-landings'
import { outcomeField, runRelation } from '../run/run-relation'
import { landedIn, landingOf } from './landed'

interface CountedRow {
  from: string | null
  to: string | null
  records: number
}

export async function compareRuns(database: Database, before: Run, after: Run): Promise<Comparison> {
  const kept = await landingsOfBoth(database, before.id, after.id)
  const rows = (kept ? pairsOf(...kept) : await joinedRows<CountedRow>(database, countsBetween(before, after))).toSorted((one, other) => other.records - one.records)
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

/** How many records went from where to where, by their numbers; null where one was not there. */
function pairsOf(was: RunLandings, now: RunLandings): CountedRow[] {
  const counts = new Uint32Array((NO_RECORD + 1) ** 2)
  for (let record = 0; record < Math.max(was.codes.length, now.codes.length); record++) counts[(was.codes[record] ?? NO_RECORD) * (NO_RECORD + 1) + (now.codes[record] ?? NO_RECORD)]!++
  const rows = new Map<string, CountedRow>()
  counts.forEach((records, pair) => {
    const [from, to] = [was.landings[Math.floor(pair / (NO_RECORD + 1))], now.landings[pair % (NO_RECORD + 1)]].map((one) => (one ? landingText(one) : null)) as [string | null, string | null]
    if (records === 0 || (from === null && to === null)) return
    const key = JSON.stringify([from, to])
    rows.set(key, { from, to, records: records + (rows.get(key)?.records ?? 0) })
  })
  return [...rows.values()]
}

/** Runs of one state of a table have the same records: then nobody has to look for such as are in one alone. */
function countsBetween(before: Run, after: Run): string {
  const [was, now] = [`${runRelation(before.id)} as was`, `${runRelation(after.id)} as now`]
  const parts = (name: string) => `${name}.status, ${name}.${outcomeField(0)}`
  const told = (name: string) => landedIn(name)
  // Grouped by what is kept, and told in words after: that spares a text for each record.
  const both = `
    select ${told('was')} as "from", ${told('now')} as "to", records from (
      select was.status as s1, was.${outcomeField(0)} as l1, now.status as s2, now.${outcomeField(0)} as l2, count(*)::int as records from ${was} join ${now} using (record) group by 1, 2, 3, 4) as counted
    cross join lateral (select s1 as status, l1 as ${outcomeField(0)}) as was cross join lateral (select s2 as status, l2 as ${outcomeField(0)}) as now`
  if (before.tableVersion === after.tableVersion) return both
  const alone = (one: string, other: string, name: string, lacking: string) => {
    const [from, to] = name === 'was' ? [told(name), 'null'] : ['null', told(name)]
    return `select ${from} as "from", ${to} as "to", records from (select ${parts(name)}, count(*)::int as records from ${one} left join ${other} using (record) where ${lacking}.status is null group by 1, 2) as ${name}`
  }
  return [both, alone(was, now, 'was', 'now'), alone(now, was, 'now', 'was')].join(' union all ')
}

function summaryOf({ gate: _g, binding: _b, feeding: _f, seen: _s, columns: _c, ...summary }: Run): RunSummary {
  return summary
}

export function differencesBetween(before: Run, after: Run): Differences {
  const [was, now] = [before, after]
  const inputs = [...new Set([...Object.keys(was.binding), ...Object.keys(now.binding)])]
  const names = [...new Set([...was.feeding, ...now.feeding].map(({ gate }) => gate.name))]
  const versionIn = ({ feeding }: Run, name: string) => feeding.find(({ gate }) => gate.name === name)?.version ?? null
  const called = ({ gateName, gateVersion, isDraft }: Run) => `${gateName}, ${isDraft ? 'the draft' : `version ${gateVersion}`}`
  const isOneGate = was.gateId === now.gateId && (was.isDraft || now.isDraft ? isSame(was.gate, now.gate) : was.gateVersion === now.gateVersion)
  return {
    gate: isOneGate ? null : { from: called(was), to: called(now) },
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
