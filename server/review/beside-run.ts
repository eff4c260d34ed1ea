/** What people said of a run's records, as columns beside what its gate said: what they were given by hand, and what is pointed out. */
import type { Run } from '@dime-gate/contract/run'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { type Connection, rowOf } from '../database/database'
import { highlightNames } from '../run/run-highlights'
import { overriddenIn } from './exception-list'

export interface BesideRun {
  /** @property name as it is wanted; another column may have it @property text as SQL over `record`, and `hand` where anything was given by hand */
  columns: { name: string; text: string; colours: ReadonlyMap<string, string> | null }[]
  /** To be joined, as SQL; empty where there is nothing to join. */
  join: string
}

/** Nothing where nobody said anything. */
export async function besideRun(connection: Connection, run: Run, highlights: readonly Highlight[]): Promise<BesideRun> {
  const hand = overriddenIn(run.id)
  const { overrides } = (await rowOf<{ overrides: number }>(connection, `select count(*)::int as overrides from ${hand} as hand`))!
  const looks = run.gate.outcomes.map(({ labels }) => new Map(labels.map(({ value, colour }) => [value, colour])))
  const byHand = overrides === 0 ? [] : [
    ...run.gate.outcomes.map(({ name }, at) => ({ name: `${run.gateName}${at === 0 ? '' : ` ${name}`} by hand`, text: `hand.outcomes ->> ${connection.escapeLiteral(name)}`, colours: looks[at]! })),
    { name: `${run.gateName} because`, text: 'hand.note', colours: null },
  ]
  const pointed = highlights.length === 0 ? [] : [{ name: `${run.gateName} highlights`, text: await highlightNames(connection, run, highlights), colours: new Map(highlights.map(({ name, colour }) => [name, colour])) }]
  return { columns: [...byHand, ...pointed], join: overrides === 0 ? '' : ` left join ${hand} as hand using (record)` }
}
