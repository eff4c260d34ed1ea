/** What became of each record of a run, a byte each: whoever counts how labels fall need not join two relations of as many rows as there are records. */
import type { Result } from '@dime-gate/core/result/result'
import { NONE, type Status } from '@dime-gate/core/rule/rules'
import { type Column, valueTextAt } from '@dime-gate/core/table/table'
import { type Connection, type Queryable, rowOf } from '../database/database'

/** @property label what it got, in canonical text; null where it got nothing, or a blank */
export interface RunLanding {
  status: Status
  rule: number | null
  label: string | null
}

export interface RunLandings {
  /** By record's number a place among the landings, or `NO_RECORD`. */
  codes: Buffer
  landings: RunLanding[]
}

/** Where a run has no such record; so many landings there can be. */
export const NO_RECORD = 255

/** Beyond this a number of a record is too high: its table has been replaced again and again. Bytes. */
const MOST_BYTES = 64_000_000

/** Gathers them as they are decided. */
export class LandingWriter {
  private codes = Buffer.alloc(1 << 16, NO_RECORD)
  private length = 0
  private readonly places = new Map<string, number>()
  private readonly landings: RunLanding[] = []
  /** Where a rule gives all the same, by a decision's code the place of it. */
  private readonly byCode: number[] = []
  private isTooMany = false

  /** @param records their numbers, in rising order @param isFixed whether a rule gives every record that it takes the same */
  add(records: Int32Array, result: Result, isFixed: boolean): void {
    if (this.isTooMany || records.length === 0) return
    this.reach(records.at(-1)! + 1)
    if (this.isTooMany) return
    let labels: Column | null = isFixed ? null : labelsOf(result)
    const labelAt = (at: number, status: Status) => (status === 'labelled' || status === 'otherwise' ? valueTextAt((labels ??= labelsOf(result)), at) : null)
    const { decisions } = result
    for (let at = 0; at < records.length; at++) {
      const code = decisions.codeAt(at)
      let place = isFixed ? this.byCode[code] : undefined
      if (place === undefined) {
        const { status, rule } = decisions.at(at)
        place = this.placeOf({ status, rule: rule === NONE ? null : rule, label: labelAt(at, status) })
        this.byCode[code] = place
      }
      if (this.isTooMany) return
      this.codes[records[at]!] = place
    }
  }

  /** Nothing where there are too many of them. */
  async write(connection: Connection, runId: number): Promise<void> {
    if (!this.isTooMany) await connection.query('insert into run_landings (run_id, codes, landings) values ($1, $2, $3)', [runId, this.codes.subarray(0, this.length), JSON.stringify(this.landings)])
  }

  private placeOf(landing: RunLanding): number {
    const key = JSON.stringify(landing)
    if (!this.places.has(key)) {
      this.isTooMany ||= this.landings.length === NO_RECORD
      this.places.set(key, this.landings.push(landing) - 1)
    }
    return this.places.get(key)!
  }

  private reach(length: number): void {
    this.length = length
    this.isTooMany ||= length > MOST_BYTES
    if (length <= this.codes.length || this.isTooMany) return
    this.codes = Buffer.concat([this.codes, Buffer.alloc(Math.max(this.codes.length, length - this.codes.length), NO_RECORD)])
  }
}

function labelsOf(result: Result): Column {
  return [...result.outcomes().values()][0]!
}

/** Null where a run has none. */
export function keptLandings(on: Queryable, runId: number): Promise<RunLandings | null> {
  return rowOf<RunLandings>(on, 'select codes, landings from run_landings where run_id = $1', [runId])
}

/** As `landedIn` tells it: `=` and the label, or the name of the status. */
export function landingText({ status, label }: RunLanding): string {
  return status === 'labelled' || status === 'otherwise' ? `=${label ?? ''}` : status
}

/** Of two runs that are held against each other; null where either has none. */
export async function landingsOfBoth(on: Queryable, before: number, after: number): Promise<[was: RunLandings, now: RunLandings] | null> {
  const [was, now] = [await keptLandings(on, before), await keptLandings(on, after)]
  return was && now && [was, now]
}

/** The landings without the records; null where a run has none. */
export async function landingsAlone(on: Queryable, runId: number): Promise<RunLanding[] | null> {
  return (await rowOf<Pick<RunLandings, 'landings'>>(on, 'select landings from run_landings where run_id = $1', [runId]))?.landings ?? null
}

/** The records that landed elsewhere in the other of two runs, by their numbers, with where, as `landingText` tells it; null where one has no such record. */
export function* landedElsewhere(was: RunLandings, now: RunLandings): Generator<{ record: number; from: string | null; to: string | null }> {
  const [before, after] = [was, now].map(({ landings }) => landings.map(landingText)) as [string[], string[]]
  for (let record = 0; record < Math.max(was.codes.length, now.codes.length); record++) {
    const [from, to] = [before[was.codes[record] ?? NO_RECORD] ?? null, after[now.codes[record] ?? NO_RECORD] ?? null]
    if (from !== to) yield { record, from, to }
  }
}

/** As SQL, the place among `landings` of a record; null where the run has none kept so. The bytes are read once, and not for each record. */
export function landingCode(runId: number, record: string): string {
  return `get_byte((select codes || ''::bytea from run_landings where run_id = ${runId}), ${record})`
}

