/** Changes to a table as somebody makes them: kept at once, one after the other, taken back and done again. */
import type { ChangeAnswer, ChangeRequest, Conflict } from '@dime-gate/contract/change'
import { ref, shallowRef } from 'vue'
import { messageOf } from '../shared/api'

export interface EditSteps {
  change(request: ChangeRequest): Promise<ChangeAnswer>
  undo(version: number): Promise<ChangeAnswer>
}

/** A change that met others: what was wanted, and what stands there now. */
export interface Quarrel {
  request: ChangeRequest & { kind: 'values' }
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

  /** @returns whether it is kept; where not, `trouble` or `quarrel` says why */
  function change(request: ChangeRequest): Promise<boolean> {
    trouble.value = ''
    return inTurn(async () => {
      const answer = await steps.change(request)
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
      const answer = await steps.undo(version)
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
      const answer = await steps.undo(version)
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
    const nowOf = new Map(conflicts.map(({ record, column, now }) => [`${record} ${column}`, now]))
    return change({
      ...request,
      cells: request.cells.map((cell) => ({ ...cell, seen: nowOf.get(`${cell.record} ${cell.column}`) ?? cell.seen })),
    })
  }

  return { past, future, pending, trouble, quarrel, change, undo, redo, takeBack, settle }
}
