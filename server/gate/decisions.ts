/** Answers to whoever asks for the labels of single records: what a version needs is kept ready, and what takes long is done beside the others. */
import type { DecideAnswer, DecideRequest } from '@dime-gate/contract/decide'
import type { Question } from '@dime-gate/contract/question'
import { type Database, rowOf } from '../database/database'
import { ThreadPool } from '../threads/thread-pool'
import { decideGiven, type ReadyVersion, readyVersion } from './decide-given'
import { feedingVersions } from './feeding'
import { findGate, findVersion } from './gates'

export interface DecideTask {
  kind: 'decide'
  question: Pick<Question, 'gate' | 'feeding'>
  version: number
  feeding: DecideAnswer['feeding']
  request: DecideRequest
  asOf: string
}

/** Rules times records that take no longer than an answer may. */
const AT_ONCE = 20_000
/** Versions that are kept ready. */
const MOST_KEPT = 100

/** @property stamp is another whenever a gate, or a version of one, came, changed or went */
interface Now {
  stamp: string
  asOf: string
}

interface Kept {
  question: Pick<Question, 'gate' | 'feeding'>
  feeding: DecideAnswer['feeding']
  ready: ReadyVersion
}

export class Decisions {
  private readonly pool: ThreadPool<DecideTask, never, DecideAnswer>
  /** By gate and version, as all gates stood when the stamp was told. */
  private readonly all = new Map<string, Kept>()
  private stamp = ''
  private running: Promise<void> | null = null
  private next: Promise<Now> | null = null

  /** @param url of the database, for the threads' own connections */
  constructor(private readonly database: Database, url: string) {
    this.pool = new ThreadPool(url, 1)
  }

  /** @throws Refusal `not-found`, `no-version`, `cannot-decide`, `malformed` */
  async decide(gateId: number, version: number, request: DecideRequest): Promise<DecideAnswer> {
    const { stamp, asOf } = await this.now()
    const { question, feeding, ready } = await this.kept(gateId, version, stamp)
    const day = request.asOf ?? asOf
    const rules = Math.max(1, ...ready.gates.map(({ lowered }) => lowered.rules.length))
    if (!request.findings && rules * request.records.length <= AT_ONCE) return decideGiven(ready, request, day)
    return this.pool.do({ kind: 'decide', question, version, feeding, request, asOf: day })
  }

  /** How things stand. Whoever asks while another question is under way shares the next one, so that none is older than who asks. */
  private now(): Promise<Now> {
    this.next ??= (this.running ?? Promise.resolve()).then(() => {
      const asked = this.look()
      this.next = null
      this.running = asked.then(() => undefined, () => undefined)
      return asked
    })
    return this.next
  }

  private async look(): Promise<Now> {
    return (await rowOf<Now>(this.database, `
      select coalesce(as_of, current_date)::text as "asOf",
        concat((select md5(string_agg(concat(id, ' ', draft_version, ' ', removed_at is null), ',' order by id)) from gate), ' ', (select count(*) from gate_version)) as stamp
      from workspace`))!
  }

  private async kept(gateId: number, version: number, stamp: string): Promise<Kept> {
    if (stamp !== this.stamp) {
      this.stamp = stamp
      this.all.clear()
    }
    const key = `${gateId} ${version}`
    const known = this.all.get(key)
    if (known) return known
    // What is told while it is looked up is not kept under a stamp that is older.
    const found = await this.found(gateId, version)
    if (this.stamp === stamp) this.all.set(key, found)
    if (this.all.size > MOST_KEPT) this.all.delete(this.all.keys().next().value!)
    return found
  }

  private async found(gateId: number, version: number): Promise<Kept> {
    // Of a gate that is removed nothing is told.
    await findGate(this.database, gateId)
    const gate = await findVersion(this.database, gateId, version)
    // A version never changes; those that feed it are used as they were set last.
    const behind = await feedingVersions(this.database, gate)
    const question = { gate, feeding: behind.map((one) => ({ gate: one.gate, inputs: {} })) }
    const feeding = behind.map((one) => ({ gate: one.gate.name, version: one.version }))
    return { question, feeding, ready: readyVersion(question, version, feeding) }
  }

  close(): Promise<unknown> {
    return this.pool.close()
  }
}

/** What the thread does. */
export function decideInThread({ question, version, feeding, request, asOf }: DecideTask): DecideAnswer {
  return decideGiven(readyVersion(question, version, feeding), request, asOf)
}
