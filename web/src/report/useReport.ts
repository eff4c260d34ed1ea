/** All that a report of a run is made of: the same answers that the run's page and the review are made of. */
import { type Check, checkSchema } from '@dime-gate/contract/expectation'
import { type Exception, exceptionsSchema, type Override, overrideSchema, type Review, reviewSchema } from '@dime-gate/contract/review'
import { highlightListSchema } from '@dime-gate/contract/highlight'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import { type Run, runSchema } from '@dime-gate/contract/run'
import { type RunGroups, runGroupsSchema } from '@dime-gate/contract/run-groups'
import { ref, shallowRef } from 'vue'
import { z } from 'zod'
import { ask, askBytes, askWith, messageOf } from '../shared/api'
import { ExceptionOrder } from '../review/review-groups'
import type { ReportAddress } from './report-address'

/** More than anybody reads on paper; the rest is told in number. */
export const MOST_EXCEPTIONS = 2000
const AT_ONCE = 500
/** Milliseconds. */
const LOOK_AGAIN = 300
/** Of more records the checksum would take longer than anybody waits. */
const MOST_SUMMED = 200_000

export type DoneRun = Run & { counts: NonNullable<Run['counts']> }

export function useReport(id: number) {
  const run = shallowRef<DoneRun | null>(null)
  const checks = shallowRef<Check[]>([])
  const overrides = shallowRef<Override[]>([])
  /** Each with the records that meet it. */
  const highlights = shallowRef<(Highlight & { records: number })[]>([])
  const groups = shallowRef<RunGroups | null>(null)
  /** As many as are printed, and how many there are. */
  const exceptions = shallowRef<{ listed: Exception[]; all: number } | null>(null)
  const waiting = ref<number | null>(null)
  /** SHA-256 of the labelled table as CSV, in hexadecimal figures; null where it is not summed. */
  const checksum = ref<string | null>(null)
  const trouble = ref('')
  const isReady = ref(false)

  async function load(): Promise<void> {
    trouble.value = ''
    try {
      const found = await ask(runSchema, `/runs/${id}`)
      if (!found.counts) throw new Error('This run is not done, so there is nothing to report yet.')
      run.value = { ...found, counts: found.counts }
      const review = await reviewed()
      waiting.value = review.runs.some((one) => one.id === id) ? review.counts.filter(({ runId, state }) => runId === id && (state === 'open' || state === 'lapsed')).reduce((sum, { records }) => sum + records, 0) : null
      ;[checks.value, overrides.value] = await Promise.all([ask(z.array(checkSchema), `/runs/${id}/checks`), ask(z.array(overrideSchema), `/review/runs/${id}/overrides`)])
      highlights.value = await pointedOut(found.gateId)
      exceptions.value = await listed()
      if (found.counts.records <= MOST_SUMMED) checksum.value = await summed().catch(() => null)
      isReady.value = true
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  /** Exceptions of a run that is just kept are still being found. */
  async function reviewed(): Promise<Review> {
    for (;;) {
      const review = await ask(reviewSchema, '/review')
      if (!review.looking.includes(id)) return review
      await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN))
    }
  }

  async function listed(): Promise<{ listed: Exception[]; all: number }> {
    const order = new ExceptionOrder(new Int32Array(await askBytes('/review/listings', { filter: { runs: [id], people: null, kinds: null, states: null, text: null }, by: 'kind' })))
    const some: Exception[] = []
    for (let from = 0; from < Math.min(order.length, MOST_EXCEPTIONS); from += AT_ONCE) {
      const of = Array.from({ length: Math.min(AT_ONCE, MOST_EXCEPTIONS - from, order.length - from) }, (_, at) => order.at(from + at))
      some.push(...(await askWith(exceptionsSchema, 'POST', '/review/exceptions', { of })))
    }
    return { listed: some, all: order.length }
  }

  async function pointedOut(gateId: number): Promise<(Highlight & { records: number })[]> {
    const { highlights: all } = await ask(highlightListSchema, `/gates/${gateId}/highlights`)
    const records = all.length === 0 ? [] : await ask(z.array(z.int()), `/runs/${id}/highlighted`)
    // They may have been changed in between: what was not counted is not told.
    return all.flatMap((one, at) => (records[at] === undefined ? [] : [{ ...one, records: records[at] }]))
  }

  async function summed(): Promise<string> {
    const bytes = await (await fetch(`/api/v1/runs/${id}/labelled.csv`)).arrayBuffer()
    return [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  }

  /** @param by null where it is not told by group */
  async function group({ by, part }: Pick<ReportAddress, 'by' | 'part'>): Promise<void> {
    groups.value = null
    if (by === null) return
    try {
      groups.value = await ask(runGroupsSchema, `/runs/${id}/groups/${by}?part=${part}`)
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  return { run, checks, overrides, highlights, groups, exceptions, waiting, checksum, trouble, isReady, load, group }
}
