/** The review: what is listed, what is known of it, and what is done to it; what others do is seen as they do it. */
import { type ActRequest, actAnswerSchema, type Exception, type ExceptionDetail, exceptionDetailSchema, type ExceptionFilter, exceptionsSchema, type Review, type ReviewRun, reviewSchema } from '@dime-gate/contract/review'
import { type Run, runSchema } from '@dime-gate/contract/run'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { ask, askBytes, askWith, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { useLater } from '../shared/useLater'
import { ExceptionOrder, type ExceptionPlace, type Grouping, LISTED_BY, runsInOrder } from './review-groups'

export interface ReviewChoice {
  by: Grouping
  filter: ExceptionFilter
}

const AT_ONCE = 200
/** Milliseconds until it is looked again for exceptions that are still being found. */
const AGAIN = 800
const keyOf = ({ runId, record }: ExceptionPlace) => `${runId} ${record}`

export function useReview(choice: () => ReviewChoice) {
  const review = shallowRef<Review | null>(null)
  /** As it was listed: what is settled meanwhile stays in its place until it is listed anew. */
  const order = shallowRef(new ExceptionOrder())
  const rows = shallowReactive(new Map<string, Exception>())
  const runs = shallowReactive(new Map<number, Run>())
  const trouble = ref('')
  const acts = shallowRef<number[]>([])
  const notices = useNotices()
  const asked = new Set<string>()
  const openRuns = new Set<number>()
  let listing = 0
  const lookAgain = useLater(() => void load(), AGAIN)

  // Whoever goes through them changes the address and the counts, and neither changes how they lie.
  const by = computed(() => choice().by)
  const listedRuns = computed((before: ReviewRun[] | undefined) => {
    const now = review.value?.runs ?? []
    return before && JSON.stringify(before) === JSON.stringify(now) ? before : now
  })
  const groups = computed(() => order.value.groups(by.value, listedRuns.value))
  const rowOf = (place: ExceptionPlace): Exception | undefined => rows.get(keyOf(place))

  async function count(): Promise<void> {
    review.value = await ask(reviewSchema, '/review')
    if (review.value.looking.length > 0) lookAgain()
  }

  /** Those that are chosen, in the order of their names; which they are may only be known once they are counted. */
  function runsWithin(): number[] {
    const { by, filter } = choice()
    const all = runsInOrder(review.value!.runs, by)
    return filter.runs ? all.filter((id) => filter.runs!.includes(id)) : all
  }

  async function load(): Promise<void> {
    const mine = ++listing
    try {
      const { by, filter } = choice()
      const listed = (runs: number[] | null) => askBytes('/review/listings', { filter: { ...filter, runs }, by: LISTED_BY[by] })
      // Reason by reason, or person by person, the runs may follow each other in any order, so nobody has to be asked which there are.
      const [bytes] = LISTED_BY[by] !== 'run' && filter.runs === null ? await Promise.all([listed(null), count()]) : [await count().then(() => listed(runsWithin()))]
      const numbers = new Int32Array(bytes)
      if (mine !== listing) return
      rows.clear()
      asked.clear()
      order.value = new ExceptionOrder(numbers)
      trouble.value = ''
    } catch (error) {
      if (mine === listing) trouble.value = messageOf(error)
    }
  }

  /** Fetches what is not here of a stretch of the list. */
  async function want(from: number, to: number): Promise<void> {
    const places = Array.from({ length: Math.max(0, Math.min(to, order.value.length) - from) }, (_, at) => order.value.at(from + at)).filter((place) => !asked.has(keyOf(place)))
    for (let at = 0; at < places.length; at += AT_ONCE) await fetchRows(places.slice(at, at + AT_ONCE))
  }

  async function fetchRows(places: readonly ExceptionPlace[]): Promise<void> {
    if (places.length === 0) return
    places.forEach((place) => asked.add(keyOf(place)))
    try {
      const found = await askWith(exceptionsSchema, 'POST', '/review/exceptions', { of: places })
      for (const one of found) rows.set(keyOf(one), one)
      trouble.value = ''
      await Promise.all([...new Set(found.map(({ runId }) => runId))].map(openRun))
    } catch (error) {
      places.forEach((place) => asked.delete(keyOf(place)))
      trouble.value = messageOf(error)
    }
  }

  async function openRun(id: number): Promise<void> {
    if (openRuns.has(id)) return
    openRuns.add(id)
    try {
      runs.set(id, await ask(runSchema, `/runs/${id}`))
    } catch (error) {
      openRuns.delete(id)
      throw error
    }
  }

  /** One as it is now, with how many are alike. */
  async function look(place: ExceptionPlace): Promise<ExceptionDetail> {
    const [found] = await Promise.all([ask(exceptionDetailSchema, `/review/runs/${place.runId}/records/${place.record}`), openRun(place.runId)])
    rows.set(keyOf(place), found)
    return found
  }

  /** What was seen may be another by now. */
  async function renew(): Promise<void> {
    const places = [...rows.values()].map(({ runId, record }) => ({ runId, record }))
    try {
      await count()
      for (let at = 0; at < places.length; at += AT_ONCE) await fetchRows(places.slice(at, at + AT_ONCE))
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  /** @returns how many it was done to; null where it was not done, which is told */
  async function act(request: ActRequest): Promise<number | null> {
    try {
      const { act: id, records, exception } = await askWith(actAnswerSchema, 'POST', '/review/acts', request)
      acts.value = [...acts.value, id]
      if (exception) rows.set(keyOf(exception), exception)
      if (request.isAlike) await renew()
      return records
    } catch (error) {
      notices.warn(messageOf(error))
      await renew()
      return null
    }
  }

  /** Takes back what was done last on this page. @returns whether there was anything */
  async function undo(): Promise<boolean> {
    const last = acts.value.at(-1)
    if (last === undefined) return false
    try {
      await askWith(actAnswerSchema, 'DELETE', `/review/acts/${last}`, {})
      acts.value = acts.value.slice(0, -1)
    } catch (error) {
      notices.warn(messageOf(error))
      acts.value = acts.value.slice(0, -1)
    }
    await renew()
    return true
  }

  return { review, listedRuns, order, groups, rows, runs, trouble, acts, rowOf, load, want, look, renew, count, act, undo }
}

export type ReviewInHand = ReturnType<typeof useReview>
