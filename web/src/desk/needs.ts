/** What on the desk needs somebody, in number, and where each leads in one step. */
import type { Desk } from '@dime-gate/contract/desk'
import { type Review, WAITING } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS } from '@dime-gate/core/result/exception'
import { KIND_WORDS } from '../review/exception-words'
import { freshWords } from '../run/fresh-words'
import { count, counted } from '../shared/format'
import { runTitle } from '../shared/words'

export interface Need {
  of: 'exceptions' | 'missed' | 'stale' | 'failed'
  number: number
  words: string
  remark: string
  /** What the way on is called, and where it leads. */
  way: string
  path: string
  isTrouble: boolean
}

/** As many as are told by name. */
const MOST_NAMED = 3

/** What weighs most first; nothing where nothing needs anybody. @param review null as long as it is not here */
export function needsOf({ runs, expected, fresh }: Pick<Desk, 'runs' | 'expected' | 'fresh'>, review: Review | null): Need[] {
  const named = (words: readonly string[]) => (words.length > MOST_NAMED ? [...words.slice(0, MOST_NAMED), `and ${count(words.length - MOST_NAMED)} more`] : words).join(', ')
  const waiting = (review?.counts ?? []).filter(({ state }) => WAITING.some((one) => one === state))
  const exceptions = waiting.reduce((sum, { records }) => sum + records, 0)
  const byKind = (['lapsed', ...EXCEPTION_KINDS] as const).flatMap((kind) => {
    const records = waiting.filter((one) => (kind === 'lapsed' ? one.state === 'lapsed' : one.kind === kind && one.state === 'open')).reduce((sum, one) => sum + one.records, 0)
    return records > 0 ? [`${count(records)} ${KIND_WORDS[kind].name.toLowerCase()}`] : []
  })
  const missed = runs.filter(({ id }) => (expected[id]?.missed ?? 0) > 0)
  const stale = runs.filter(({ id }) => fresh[id] && freshWords(fresh[id]).isStale)
  const failed = runs.filter(({ state, gateId, tableId, id }) => state === 'failed' && !runs.some((one) => one.gateId === gateId && one.tableId === tableId && one.id > id))
  const to = (some: typeof runs) => (some.length === 1 ? `/runs/${some[0]!.id}` : '/runs')
  const all: Need[] = [
    { of: 'exceptions', number: exceptions, words: exceptions === 1 ? 'exception waits in Review' : 'exceptions wait in Review', remark: byKind.join(', '), way: 'Review', path: '/review', isTrouble: true },
    { of: 'missed', number: missed.reduce((sum, { id }) => sum + expected[id]!.missed, 0), words: missed.length === 1 && expected[missed[0]!.id]!.missed === 1 ? 'expectation is missed' : 'expectations are missed', remark: named(missed.map(runTitle)), way: 'Look', path: to(missed), isTrouble: true },
    { of: 'stale', number: stale.length, words: stale.length === 1 ? 'run is no longer fresh' : 'runs are no longer fresh', remark: named(stale.map((run) => `${runTitle(run)}: ${freshWords(fresh[run.id]!).words}`)), way: 'Look', path: to(stale), isTrouble: false },
    { of: 'failed', number: failed.length, words: `${counted(failed.length, 'run').replace(/^\S+ /, '')} failed`, remark: named(failed.map(runTitle)), way: 'Look', path: to(failed), isTrouble: true },
  ]
  return all.filter(({ number }) => number > 0)
}
