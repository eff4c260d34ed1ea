/** A file on its way to become a table: sent, looked at from beginning to end, decided upon, brought in. */
import { type ColumnPlan, type FileFormat } from '@dime-gate/interchange/table/settings'
import type { MergeAnswer, MergePlan, MergeRequest } from '@dime-gate/contract/change'
import type { FileLook, ImportRequest, Progress, StagedFile, Table } from '@dime-gate/contract/table'
import { computed, ref, shallowRef } from 'vue'
import { messageOf, RequestProblem } from '../shared/api'

/** What the server does with a file, one step after the other. */
export interface FileSteps {
  send(file: File, progress: (share: number) => void, signal: AbortSignal): Promise<StagedFile>
  look(id: string, choice: Choice, heard: (progress: Progress) => void, signal: AbortSignal): Promise<FileLook>
  merge(tableId: number, request: MergeRequest, heard: (progress: Progress) => void, signal: AbortSignal): Promise<MergeAnswer>
  bringIn(request: ImportRequest, heard: (progress: Progress) => void, signal: AbortSignal): Promise<Table>
  forget(id: string): void
}

export interface Choice {
  format: Partial<Omit<FileFormat, 'kind'>>
  columns: Record<number, Partial<ColumnPlan>>
}

/** A table that the file goes into, instead of becoming one. */
export interface Target {
  tableId: number
  isReplacing: boolean
}

export type Stage = 'sending' | 'looking' | 'comparing' | 'ready' | 'bringing in' | 'done' | 'stopped'

/** What changes where the columns begin and end, so that what was said of them is of others. */
const OTHER_COLUMNS = ['sheet', 'delimiter'] as const
/** What the server has to look at anew; all else is said and done here. */
const READ_ANEW = ['type', 'fraction'] as const

export type FileOnItsWay = ReturnType<typeof fileOnItsWay>

/** Milliseconds without a further change before the file is compared anew. */
const PAUSE = 300

export function fileOnItsWay(file: File, steps: FileSteps, into: Target | null = null) {
  const stage = ref<Stage>('sending')
  const progress = ref<Progress>({ records: 0, share: 0, isWaiting: false })
  const found = shallowRef<FileLook | null>(null)
  const choice = shallowRef<Choice>({ format: {}, columns: {} })
  const trouble = ref('')
  const target = ref<Target | null>(into)
  /** What it would do to the table that it goes into. */
  const plan = shallowRef<MergePlan | null>(null)
  let pause: ReturnType<typeof setTimeout> | undefined
  let staged: Promise<StagedFile> | null = null
  let asking = new AbortController()
  /** Ends all of it, not one step alone. */
  const leaving = new AbortController()

  /** As it was found, with what was decided since. */
  const look = computed<FileLook | null>(() => {
    if (!found.value) return null
    const columns = found.value.settings.columns.map((column, at) => ({ ...column, ...choice.value.columns[at] }))
    return { ...found.value, settings: { ...found.value.settings, columns } }
  })

  const heard = (told: Progress) => (progress.value = told)

  /** The file as the server has it. One that it has lost is sent again. */
  async function withFile<Result>(work: (id: string) => Promise<Result>): Promise<Result> {
    for (let isFirst = true; ; isFirst = false) {
      try {
        if (!staged) {
          stage.value = 'sending'
          staged = steps.send(file, (share) => heard({ records: 0, share, isWaiting: false }), leaving.signal)
        }
        return await work((await staged).id)
      } catch (error) {
        const isLost = error instanceof RequestProblem && (error.problem.code === 'file-gone' || error.status === 0)
        if (
          isLost ||
          !(await staged?.then(
            () => true,
            () => false,
          ))
        )
          staged = null
        if (!isFirst || !isLost || error.status === 0) throw error
      }
    }
  }

  /** The latest choice wins; what was asked before is broken off. */
  async function lookAgain(): Promise<void> {
    asking.abort()
    const mine = (asking = new AbortController())
    trouble.value = ''
    try {
      const answer = await withFile((id) => {
        if (mine.signal.aborted) throw new DOMException('overtaken', 'AbortError')
        stage.value = 'looking'
        progress.value = { records: 0, share: null, isWaiting: false }
        return steps.look(id, choice.value, heard, mine.signal)
      })
      if (mine.signal.aborted) return
      found.value = answer
      stage.value = 'ready'
      void compare()
    } catch (error) {
      if (mine.signal.aborted || leaving.signal.aborted) return
      trouble.value = messageOf(error)
      stage.value = 'ready'
      // Another encoding, or another sheet, may be all that it takes: what can be chosen stays.
      if (!(error instanceof RequestProblem && error.problem.code === 'encoding')) found.value = null
    }
  }

  function choose(format: Choice['format']): void {
    const isOther = OTHER_COLUMNS.some((name) => name in format)
    choice.value = { format: { ...choice.value.format, ...format }, columns: isOther ? {} : choice.value.columns }
    void lookAgain()
  }

  function edit(column: number, said: Partial<ColumnPlan>): void {
    const { format, columns } = choice.value
    choice.value = { format, columns: { ...columns, [column]: { ...columns[column], ...said } } }
    if (READ_ANEW.some((name) => name in said)) void lookAgain()
    else compareSoon()
  }

  function aimAt(next: Target | null): void {
    target.value = next
    plan.value = null
    trouble.value = ''
    void compare()
  }

  function compareSoon(): void {
    clearTimeout(pause)
    pause = setTimeout(() => void compare(), PAUSE)
  }

  /** What the file would do to the table, told before anything is done. */
  async function compare(): Promise<void> {
    const [to, now] = [target.value, look.value]
    if (!to || !now || now.problem || (stage.value !== 'ready' && stage.value !== 'comparing')) return
    asking.abort()
    const mine = (asking = new AbortController())
    try {
      const answer = await withFile((id) => {
        stage.value = 'comparing'
        progress.value = { records: 0, share: null, isWaiting: false }
        return steps.merge(to.tableId, { file: id, settings: trimmed(now), isReplacing: to.isReplacing, isTrial: true }, heard, mine.signal)
      })
      if (mine.signal.aborted) return
      plan.value = answer.plan
    } catch (error) {
      if (mine.signal.aborted) return
      plan.value = null
      trouble.value = messageOf(error)
    }
    if (!leaving.signal.aborted) stage.value = 'ready'
  }

  /** @returns the table; null where it did not become one, and `trouble` says why */
  async function bringIn(name: string): Promise<Table | null> {
    if (!look.value || stage.value !== 'ready') return null
    trouble.value = ''
    asking = new AbortController()
    const settings = trimmed(look.value)
    const to = target.value
    try {
      const table = await withFile((id) => {
        stage.value = 'bringing in'
        progress.value = { records: 0, share: 0, isWaiting: false }
        if (to)
          return steps
            .merge(to.tableId, { file: id, settings, isReplacing: to.isReplacing, isTrial: false }, heard, asking.signal)
            .then(({ table }) => table)
        return steps.bringIn({ file: id, name: name.trim(), settings }, heard, asking.signal)
      })
      stage.value = 'done'
      return table
    } catch (error) {
      if (leaving.signal.aborted) return null
      if (!asking.signal.aborted) trouble.value = messageOf(error)
      stage.value = 'ready'
      return null
    }
  }

  /** Breaks off what is under way; the file and all that was decided stay. */
  function breakOff(): void {
    asking.abort()
  }

  /** Lets go of the file; nothing of it stays on the server. */
  function forget(): void {
    stage.value = 'stopped'
    leaving.abort()
    clearTimeout(pause)
    asking.abort()
    void staged?.then(
      ({ id }) => steps.forget(id),
      () => undefined,
    )
  }

  return { file, stage, progress, look, choice, trouble, target, plan, lookAgain, choose, edit, aimAt, bringIn, breakOff, forget }
}

function trimmed({ settings }: FileLook): FileLook['settings'] {
  return { ...settings, columns: settings.columns.map((column) => ({ ...column, name: column.name.trim(), unit: column.unit.trim() })) }
}
