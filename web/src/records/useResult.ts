/** What a gate makes of a table, following the gate while it changes. */
import { columnsAsked } from '@dime-gate/contract/question'
import type { GateProblem } from '@dime-gate/core/gate/gate-problem'
import type { FurtherCounts } from '@dime-gate/core/result/counts'
import type { Remote } from 'comlink'
import { nextTick, onScopeDispose, type Ref, ref, shallowRef, watch } from 'vue'
import { messageOf } from '../shared/api'
import type { RecordsWorker } from './records-worker'
import type { ChangedCells } from './changed-cells'
import type { ColumnAddress } from './column-address'
import type { Asked, DecidedGate } from './session'
import { whileFetching } from './while-fetching'

/**
 * Name of the measure, in the browser's performance timeline, from a change of the gate to its counts on
 * the page. Its detail has the milliseconds of work in between: deciding, and drawing the change and the counts.
 */
export const COUNTS_FOLLOW = 'counts follow'

export interface CountsFollowDetail {
  work: number
  /** The part of it that the worker took to decide. */
  deciding: number
}

/** So long nothing must change before what takes longer is asked for. */
const PAUSE = 160

type ResultSession = Pick<Remote<RecordsWorker>, 'open' | 'refresh' | 'decide' | 'further'>

/**
 * Counts that follow the gate while it changes. While one gate is being decided, later ones replace each other, so that
 * the counts are never more than one step behind; columns are fetched when they are first asked for.
 * @param asked null as long as there is nothing to ask
 * @param anyColumn one to count the records by, for a gate that looks at nothing yet
 */
export function useResult(session: ResultSession, asked: Ref<Asked | null>, addressOf: (column: number) => ColumnAddress, anyColumn: () => number | undefined = () => undefined) {
  const decided = shallowRef<DecidedGate | null>(null)
  const further = shallowRef<FurtherCounts | null>(null)
  /** What keeps the gate from deciding. */
  const problems = shallowRef<GateProblem[]>([])
  /** Changes with every result; 0 as long as there is none of the columns that are asked for. */
  const tick = ref(0)
  /** Moves whenever what was decided is of values that have changed: what was asked of the columns is asked anew. */
  const renewed = ref(0)
  let isRenewed = false
  /** By which the worker knows the result shown; 0 where there is none. */
  const sequence = ref(0)
  /** Records whose values have come; null where none are on their way. */
  const fetched = ref<number | null>(null)
  const trouble = ref('')
  const opened = new Set<number>()
  let waiting: { asked: Asked; since: number; drawn: Promise<number> } | null = null
  let isBusy = false
  /** Whether values that have changed have not come. */
  let isBehind = false
  /** Whether columns are on their way, and what they hold may have changed meanwhile. */
  let coming: { isOld: boolean } | null = null
  let pause: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => clearTimeout(pause))

  async function follow(): Promise<void> {
    if (isBusy) return
    isBusy = true
    try {
      while (waiting) {
        const next = waiting
        const missing = missingFor(next.asked)
        if (missing.length > 0) {
          // What is asked may be something else by the time they are here.
          await open(missing)
          continue
        }
        waiting = null
        // Nothing is waited for until here: while the change is drawn, it is decided already.
        const answer = await session.decide(next.asked)
        if ('problems' in answer) {
          problems.value = answer.problems
          continue
        }
        problems.value = []
        decided.value = answer
        sequence.value = answer.sequence
        tick.value++
        if (isRenewed) {
          isRenewed = false
          renewed.value++
        }
        const [change, counts] = [await next.drawn, await timeToDraw()]
        const detail: CountsFollowDetail = { work: answer.took + change + counts, deciding: answer.took }
        performance.measure(COUNTS_FOLLOW, { start: next.since, detail })
        lookFurther(answer.sequence)
      }
    } catch (error) {
      waiting = null
      trouble.value = messageOf(error)
    } finally {
      isBusy = false
    }
  }

  function missingFor(next: Asked): number[] {
    const needed = columnsAsked(next)
    // Without any column there would be no record to decide.
    return (needed.length > 0 || opened.size > 0 ? needed : [anyColumn()].filter((id) => id !== undefined)).filter((id) => !opened.has(id))
  }

  async function open(missing: readonly number[]): Promise<void> {
    // What was counted of other columns says nothing of these.
    clear()
    const mine = (coming = { isOld: false })
    try {
      await whileFetching(fetched, (progress) => session.open(missing.map(addressOf), progress))
      missing.forEach((id) => opened.add(id))
      if (mine.isOld) await session.refresh([...opened].map(addressOf))
    } finally {
      coming = null
    }
  }

  /**
   * The values have changed: they are fetched anew, and what is asked is decided on them. What was counted stays until then.
   * @param changed all that is different since the values that are here, where that is known
   */
  async function refresh(changed: ChangedCells | null = null): Promise<void> {
    if (coming) coming.isOld = true
    const now = asked.value
    if (!now || opened.size === 0) return
    try {
      const known = isBehind ? null : changed
      isBehind = true
      // Columns that nobody asks for any more are let go of.
      const wanted = columnsAsked(now).filter((id) => opened.has(id))
      await session.refresh(wanted.map(addressOf), known)
      isBehind = false
      opened.clear()
      wanted.forEach((id) => opened.add(id))
      isRenewed = true
      if (asked.value) waiting = { asked: asked.value, since: performance.now(), drawn: timeToDraw() }
      await follow()
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  function lookFurther(sequence: number): void {
    clearTimeout(pause)
    pause = setTimeout(async () => {
      const answer = await session.further(sequence)
      if (answer) further.value = answer
    }, PAUSE)
  }

  function clear(): void {
    decided.value = null
    further.value = null
    tick.value = 0
  }

  watch(asked, (now) => {
    trouble.value = ''
    if (!now) return clear()
    waiting = { asked: now, since: performance.now(), drawn: timeToDraw() }
    void follow()
  }, { immediate: true, flush: 'sync' })

  return { decided, further, problems, sequence, tick, renewed, fetched, trouble, refresh }
}

/** Milliseconds until Vue has brought the page up to date with what just changed. */
async function timeToDraw(): Promise<number> {
  const start = performance.now()
  await nextTick()
  return performance.now() - start
}
