/** Whether a run comes to what is expected of it. Runs stay as they are, so what one comes to is counted once. */
import type { Check, Expectation, KeptExpectation } from '@dime-gate/contract/expectation'
import type { Run } from '@dime-gate/contract/run'
import { offBy, type LookedAt } from '@dime-gate/core/expectation/expectation'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { type Queryable, rowOf } from '../database/database'
import { valueOf } from '../table/relation'
import { expectationsOn } from './expectations'
import { outcomeField, recordsOfRun, runRelation } from '../run/run-relation'

/** What an expectation comes to. */
type Counted = Pick<Check, 'got' | 'of' | 'label'>

/** Runs and expectations whose counts are kept at a time. */
const MOST_KEPT = 5000
const GONE = 'A column that this looks at is not in the table of this run.'

export class RunChecks {
  private readonly counted = new Map<string, Counted>()

  /** @param database where long questions are in nobody's way */
  constructor(private readonly database: Queryable) {}

  /** @param run that is done */
  async check(run: Run, expectations: readonly KeptExpectation[]): Promise<Check[]> {
    const checks: Check[] = []
    for (const kept of expectations) checks.push(await this.one(run, kept))
    return checks
  }

  /** How much is expected of a run, and how much of it is missed; null where nothing is. */
  async tally(on: Queryable, run: Run): Promise<{ of: number; missed: number } | null> {
    const expectations = await expectationsOn(on, run.gateId, run.tableId)
    if (expectations.length === 0) return null
    const checks = await this.check(run, expectations)
    return { of: checks.length, missed: checks.filter(({ off, problem }) => off !== 0 && problem === null).length }
  }

  private async one(run: Run, kept: KeptExpectation): Promise<Check> {
    const { expectation } = kept
    if (!columnsOf(expectation).every((id) => run.columns.some((column) => column.id === id))) return { ...kept, got: 0, of: 0, off: 0, label: null, problem: GONE }
    const key = `${run.id} ${JSON.stringify(expectation)}`
    const counted = this.counted.get(key) ?? (await count(this.database, run, expectation))
    this.counted.set(key, counted)
    if (this.counted.size > MOST_KEPT) this.counted.delete(this.counted.keys().next().value!)
    return { ...kept, ...counted, off: expectation.kind === 'count' ? offBy(expectation.bounds, counted.got, counted.of) : counted.got - 1, problem: null }
  }
}

function columnsOf(expectation: Expectation): number[] {
  if (expectation.kind === 'record') return expectation.who.map(({ column }) => column)
  return expectation.within ? [expectation.within.column] : []
}

async function count(on: Queryable, run: Run, expectation: Expectation): Promise<Counted> {
  if (expectation.kind === 'record') return countOne(on, run, expectation)
  const { of, within } = expectation
  if (of.kind === 'to look at') return { got: lookedAt(run, of.of), of: run.counts!.records, label: null }
  const kept = `${runRelation(run.id)} as kept`
  const among = within ? `${recordsOfRun(run)} join ${kept} using (record) where ${textIn(run, within.column)} is not distinct from $2` : kept
  const is = of.kind === 'status' ? 'status = $1' : `${LABEL} = $1`
  const asked = [of.kind === 'status' ? STATUSES.indexOf(of.status) : of.label, ...(within ? [within.value] : [])]
  const counted = await rowOf<{ got: number; of: number }>(on, `select count(*) filter (where ${is})::int as got, count(*)::int as of from ${among}`, asked)
  return { ...counted!, label: null }
}

const LABEL = `${outcomeField(0)}::text`

/** A value as it is told everywhere: a number without noughts behind it. */
function textIn({ columns }: Run, id: number): string {
  const value = `records.${valueOf(id)}`
  return isNumeric(columns.find((column) => column.id === id)!.type) ? `trim_scale(${value})::text` : `${value}::text`
}

/** A record that is there several times over gets the label where all of them do. */
async function countOne(on: Queryable, run: Run, { who, label }: Expectation & { kind: 'record' }): Promise<Counted> {
  const is = who.map(({ column }, at) => `${textIn(run, column)} = $${at + 2}`)
  const { got, of, labels } = (await rowOf<{ got: number; of: number; labels: (string | null)[] | null }>(on, `
    select count(*) filter (where ${LABEL} is not distinct from $1)::int as got, count(*)::int as of, array_agg(distinct ${LABEL}) as labels
    from ${recordsOfRun(run)} join ${runRelation(run.id)} as kept using (record) where ${is.join(' and ')}`, [label, ...who.map(({ value }) => value)]))!
  const others = (labels ?? []).filter((one) => one !== label)
  return { got: of > 0 && got === of ? 1 : 0, of, label: others.length > 0 ? others[0]! : of > 0 ? label : null }
}

function lookedAt({ counts }: Run, kind: LookedAt): number {
  const { exceptions, unreadable, outside, onEdge, nearEdge } = counts!
  return { exceptions, unreadable, outside, 'on an edge': onEdge, 'near an edge': nearEdge }[kind]
}
