/** Finds the exceptions of a run that is kept, and writes them down: all of them, or none. */
import type { HighlightList } from '@dime-gate/contract/highlight'
import { columnsBound } from '@dime-gate/contract/binding'
import type { Run } from '@dime-gate/contract/run'
import { EXCEPTION_KINDS, inputsOf, mainKind, reasonKeys } from '@dime-gate/core/result/exception'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { Reason } from '@dime-gate/core/result/reason'
import type { Result } from '@dime-gate/core/result/result'
import { type Bitmap, hasBit, placesOf, unionOf } from '@dime-gate/core/table/bitmap'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { landedIn } from '../comparison/landed'
import { copyIn } from '../database/copy-in'
import { toCopyText } from '../database/copy-text'
import { type Connection, inTransaction, rowsOf, whileReading } from '../database/database'
import { highlightedBatches, othersOfRun } from '../run/run-highlights'
import { ruleTexts } from '../run/rule-texts'
import { landedElsewhere, landingsOfBoth } from '../run/run-landings'
import { columnOfRun, recordsOfRun, runRelation, seenSource } from '../run/run-relation'
import type { OnTask } from '../threads/serve-tasks'
import { whoApart, whoIs } from './who'

/** What the exceptions of a run are found by. @property before the run of its gate on its table that came before; null where there is none */
export interface FoundBy {
  highlights: number
  before: number | null
}

export interface ExceptionsTask {
  kind: 'exceptions'
  run: Run
  by: FoundBy
  highlights: HighlightList['highlights']
}

export async function findExceptions({ run, by, highlights }: ExceptionsTask, { database, signal }: OnTask<never>): Promise<void> {
  const meant = highlights.filter(({ isException }) => isException)
  await inTransaction(database, async (writing) => {
    await writing.query('create temporary table found (record integer, kind smallint, reasons jsonb, keys jsonb, about jsonb) on commit drop')
    await copyIn(writing, 'copy found from stdin', async (write) => {
      await whileReading(database, async (reading) => {
        const changed = by.before === null ? new Map<number, string>() : await changedSince(reading, run.id, by.before)
        const inputs = [...valuesSeen(run).keys()]
        for await (const { records, result, on } of highlightedBatches(reading, run, meant)) {
          if (signal.aborted) throw new Error('nobody waits for it any more')
          const pointed = meant.length === 0 ? [] : on.places()
          const reasonsAt = result.manyReasons()
          const lines: string[] = []
          for (const at of placesToLookAt(result, records, changed, pointed)) {
            const record = records[at]!
            const reasons: Reason[] = [
              ...reasonsAt(at),
              ...(changed.has(record) ? [{ kind: 'changed', from: changed.get(record)! } as const] : []),
              ...pointed.flatMap((places, of) => (hasBit(places, at) ? [{ kind: 'highlighted', name: meant[of]!.name } as const] : [])),
            ]
            const fields = [reasons, reasonKeys(reasons), inputsOf(reasons, inputs)].map((field) => toCopyText(JSON.stringify(field)))
            lines.push(`${record}\t${EXCEPTION_KINDS.indexOf(mainKind(reasons))}\t${fields.join('\t')}\n`)
          }
          await write(Buffer.from(lines.join('')))
        }
      })
    })
    await writeDown(writing, run, by, meant)
  })
}

async function writeDown(writing: Connection, run: Run, by: FoundBy, meant: readonly Highlight[]): Promise<void> {
  const [who, basis] = [whoIs(run.columns), basisOf(writing, run)]
  const kept = `${runRelation(run.id)} as kept`
  // A search for the same run, by what holds by now, may have come before.
  await writing.query('select from run where id = $1 for update', [run.id])
  await writing.query('delete from exception where run_id = $1', [run.id])
  await writing.query(`
    insert into exception (run_id, record, who, kind, reasons, keys, about, basis)
    select $1, record, ${whoApart(who)}, found.kind, found.reasons, found.keys, found.about, ${basis}${besideOf(writing, run, meant)} from found join ${kept} using (record) join ${recordsOfRun(run)} using (record)`, [run.id])
  // What was overridden by hand is an exception, whatever else there is to say of it.
  await writing.query(`
    insert into exception (run_id, record, who, kind, reasons, keys, about, basis)
    select $1, records.record, mark.who, ${EXCEPTION_KINDS.indexOf('overridden')}, '[]', '[]', '[]', ${basis}
    from ${recordsOfRun(run)} join ${kept} on kept.record = records.record join review_mark mark on mark.who = ${who}
    where mark.gate_id = $2 and mark.table_id = $3 and mark.kind = 'overridden' and mark.ended_at is null on conflict do nothing`, [run.id, run.gateId, run.tableId])
  await writing.query('update run set exceptions_by = $2 where id = $1', [run.id, by])
}

/** By record that landed elsewhere in the run before, where: the label, or what became of it. */
async function changedSince(reading: Connection, runId: number, before: number): Promise<Map<number, string>> {
  const kept = await landingsOfBoth(reading, before, runId)
  if (kept) return new Map([...landedElsewhere(...kept)].flatMap(({ record, from, to }) => (from === null || to === null ? [] : [[record, from.replace(/^=/, '')]])))
  const [was, is] = [landedIn('was'), landedIn('kept')]
  const rows = await rowsOf<{ record: number; was: string }>(reading, `select record, ${was} as was from ${runRelation(runId)} as kept join ${runRelation(before)} as was using (record) where ${was} is distinct from ${is}`)
  return new Map(rows.map((row) => [row.record, row.was.replace(/^=/, '')]))
}

function placesToLookAt(result: Result, records: Int32Array, changed: ReadonlyMap<number, string>, pointed: readonly Bitmap[]): Iterable<number> {
  const found = placesOf(unionOf([result.places({ kind: 'exceptions' }), ...pointed], records.length))
  if (changed.size === 0) return found
  const all = new Set(found)
  records.forEach((record, at) => changed.has(record) && all.add(at))
  return [...all].sort((one, other) => one - other)
}

/** By what the gate looks at, and gates that feed it, the text that the run saw, as SQL over `kept`: as it was written where it could not be read. */
function valuesSeen(run: Run): Map<string, string> {
  const textOf = (id: number): string => {
    const at = run.seen.indexOf(id)
    const { type } = run.columns.find((one) => one.id === id)!
    const { value, unreadable } = seenSource(at, type)
    return `coalesce(${isNumeric(type) ? `trim_scale(kept.${value})` : `kept.${value}`}::text, kept.${unreadable})`
  }
  const ofGate = (name: (input: string) => string, binding: Run['binding']) => Object.entries(binding).map(([input, bound]): [string, string] => {
    const texts = columnsBound(bound).map(textOf)
    return [name(input), texts.length === 1 ? texts[0]! : `nullif(concat_ws('; ', ${texts.join(', ')}), '')`]
  })
  return new Map([...ofGate((input) => input, run.binding), ...run.feeding.flatMap(({ gate, inputs }) => ofGate((input) => `${gate.name}: ${input}`, inputs))])
}

/** What highlights looked at beside, for those whom they point out: what is settled of one stands on it too. */
function besideOf(connection: Connection, run: Run, meant: readonly Highlight[]): string {
  const others = othersOfRun(run, meant)
  if (others.length === 0) return ''
  const texts = others.map(({ id, input }): [string, string] => {
    const { source: { kind, value, unreadable } } = columnOfRun(run, id)!
    return [input.name, `coalesce(${kind === 'number' ? `trim_scale(${value})` : value}::text, ${unreadable ?? 'null'})`]
  })
  return ` || case when found.reasons @> '[{"kind": "highlighted"}]' then jsonb_build_object('beside', ${objectOf(connection, texts)}) else '{}' end`
}

/** A function of the database takes no more arguments than that, two a value. */
const MOST_PAIRS = 40

function basisOf(connection: Connection, run: Run): string {
  const rule = `${connection.escapeLiteral(JSON.stringify(ruleTexts(run)))}::jsonb ->> kept.rule::int`
  return `jsonb_build_object('landed', ${landedIn('kept')}, 'rule', ${rule}, 'values', ${objectOf(connection, [...valuesSeen(run)])})`
}

/** @param texts by name, as SQL */
function objectOf(connection: Connection, texts: readonly [name: string, text: string][]): string {
  const pairs = texts.map(([name, text]) => `${connection.escapeLiteral(name)}::text, ${text}`)
  const objects: string[] = ["'{}'::jsonb"]
  for (let at = 0; at < pairs.length; at += MOST_PAIRS) objects.push(`jsonb_build_object(${pairs.slice(at, at + MOST_PAIRS).join(', ')})`)
  return objects.join(' || ')
}
