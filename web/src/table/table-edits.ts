/** Changes to a table as somebody makes them: kept at once, one after the other, taken back and done again. */
import type { ChangeAnswer, ChangeRequest, Conflict } from '@dime-gate/contract/change'
import { computed, ref, shallowRef } from 'vue'
import { isPassing, messageOf } from '../shared/api'

/** A change is made once under its key, however often it is asked for. */
export interface EditSteps {
  change(request: ChangeRequest, key: string): Promise<ChangeAnswer>
  undo(version: number, key: string): Promise<ChangeAnswer>
  /** Once the server, which did not answer, is back. */
  back(): Promise<void>
}

type ValuesRequest = ChangeRequest & { kind: 'values' }

/** A change that met others: what was wanted, and what stands there now. */
export interface Quarrel {
  request: ValuesRequest
  conflicts: Conflict[]
}

/** @param done is told of each answer, in the order in which they were asked for */
export function useTableEdits(steps: EditSteps, done: (answer: ChangeAnswer) => void) {
  /** Versions that can be taken back, and those that can be done again; the last one first to go. */
  const past = shallowRef<number[]>([])
  const future = shallowRef<number[]>([])
  const pending = ref(0)
  const trouble = ref('')
  const quarrel = shallowRef<Quarrel | null>(null)
  /** Whether what is pending waits for a server that does not answer. */
  const isWaiting = ref(false)
  const waiting = shallowRef<ValuesRequest[]>([])
  /** What was typed and is not kept yet, by `cellKey`. */
  const unkept = computed(
    (): ReadonlyMap<string, string> =>
      new Map(waiting.value.flatMap(({ cells }) => cells.map(({ record, column, text }) => [cellKey(record, column), text]))),
  )
  let last: Promise<unknown> = Promise.resolve()

  /** One after the other: what is typed quickly is kept in the order in which it was typed. */
  function inTurn(work: () => Promise<boolean>): Promise<boolean> {
    pending.value++
    const turn = last
      .then(work)
      .catch((error: unknown) => {
        trouble.value = messageOf(error)
        return false
      })
      .finally(() => pending.value--)
    last = turn
    return turn
  }

  /** Without an answer nobody knows whether it was done: it is asked for again, under the same key. */
  async function insisting(work: (key: string) => Promise<ChangeAnswer>): Promise<ChangeAnswer> {
    const key = crypto.randomUUID()
    for (;;) {
      try {
        return await work(key)
      } catch (error) {
        if (!isPassing(error)) throw error
        isWaiting.value = true
        await steps.back()
        isWaiting.value = false
      }
    }
  }

  /** @returns whether it is kept; where not, `trouble` or `quarrel` says why */
  function change(request: ChangeRequest): Promise<boolean> {
    if (request.kind !== 'values') return make(request)
    waiting.value = [...waiting.value, request]
    return make(request).finally(() => (waiting.value = waiting.value.filter((one) => one !== request)))
  }

  function make(request: ChangeRequest): Promise<boolean> {
    trouble.value = ''
    return inTurn(async () => {
      const answer = await insisting((key) => steps.change(request, key))
      if (answer.conflicts.length > 0 && request.kind === 'values') {
        quarrel.value = { request, conflicts: answer.conflicts }
        return false
      }
      past.value = [...past.value, answer.change!.version]
      future.value = []
      done(answer)
      return true
    })
  }

  function undo(): Promise<boolean> {
    return step(past, future)
  }

  function redo(): Promise<boolean> {
    return step(future, past)
  }

  function step(from: typeof past, to: typeof past): Promise<boolean> {
    trouble.value = ''
    return inTurn(async () => {
      const version = from.value.at(-1)
      if (version === undefined) return false
      const answer = await insisting((key) => steps.undo(version, key))
      from.value = from.value.slice(0, -1)
      to.value = [...to.value, answer.change!.version]
      done(answer)
      return true
    })
  }

  /** Any change, whoever made it; that can be taken back in turn. */
  function takeBack(version: number): Promise<boolean> {
    trouble.value = ''
    return inTurn(async () => {
      const answer = await insisting((key) => steps.undo(version, key))
      past.value = [...past.value, answer.change!.version]
      future.value = []
      done(answer)
      return true
    })
  }

  /** Ends a quarrel: with what was wanted, over what stands there now, or with that. */
  function settle(isMine: boolean): Promise<boolean> {
    const { request, conflicts } = quarrel.value!
    quarrel.value = null
    if (!isMine) return Promise.resolve(true)
    const nowOf = new Map(conflicts.map(({ record, column, now }) => [cellKey(record, column), now]))
    return change({
      ...request,
      cells: request.cells.map((cell) => ({ ...cell, seen: nowOf.get(cellKey(cell.record, cell.column)) ?? cell.seen })),
    })
  }

  return { past, future, pending, isWaiting, unkept, trouble, quarrel, change, undo, redo, takeBack, settle }
}

export function cellKey(record: number, column: number): string {
  return `${record} ${column}`
}
