/** A table that is looked at and changed: its columns, the records that are listed, and whatever moves in it. */
import { type ChangeAnswer, changeAnswerSchema, type Listing } from '@dime-gate/contract/change'
import { type Table, type TableProfile, tableProfileSchema, tableSchema, isComputed } from '@dime-gate/contract/table'
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import type { useRecordCells } from '../records/useRecordCells'
import { ask, askBytes, askWith, messageOf } from '../shared/api'
import { untilBack } from '../shared/connection'
import { type Followed, useMoves } from '../shared/moves'
import { type EditSteps, useTableEdits } from './table-edits'

/** Milliseconds in which the answer to a change of one's own may come after word of it. */
const PATIENCE = 250
/** Milliseconds after a change until the heads are told anew. */
const PAUSE = 600

const ANEW = /column|figure|drawn/

/** What is asked of the server, and heard of it. */
export interface TableSteps extends EditSteps {
  table(): Promise<Table>
  list(listing: Listing): Promise<Int32Array>
  profile(): Promise<TableProfile>
  /** @param heard is told the version that the table has; null where it has to be looked at */
  hear(table: () => Followed, heard: (version: number | null) => void): void
}

export function tableSteps(id: number): TableSteps {
  return {
    table: () => ask(tableSchema, `/tables/${id}`),
    list: async (listing) => new Int32Array(await askBytes(`/tables/${id}/listings`, listing)),
    profile: () => ask(tableProfileSchema, `/tables/${id}/profile`),
    change: (request, key) => askWith(changeAnswerSchema, 'POST', `/tables/${id}/changes`, request, { key }),
    undo: (version, key) => askWith(changeAnswerSchema, 'POST', `/tables/${id}/changes/${version}/undoing`, {}, { key }),
    back: untilBack,
    hear: useMoves,
  }
}

/** @param cells of the table's records, as far as they are here */
export function useTable(
  listing: Ref<Listing>,
  steps: TableSteps,
  { put, forget }: Pick<ReturnType<typeof useRecordCells>, 'put' | 'forget'>,
) {
  const table = shallowRef<Table | null>(null)
  const profile = shallowRef<TableProfile>({})
  /** The numbers of the listed records, in their order; null before they are here. */
  const order = shallowRef<Int32Array | null>(null)
  /** Changes with everything that makes the rows in view others. */
  const tick = ref(0)
  const trouble = ref('')
  let asking = 0
  let late: ReturnType<typeof setTimeout> | undefined
  let pause: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => {
    clearTimeout(late)
    clearTimeout(pause)
  })

  async function load(): Promise<void> {
    trouble.value = ''
    try {
      table.value = await steps.table()
      await list()
      await tellFigures()
      profile.value = await steps.profile()
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }

  /** Figures that were not computed yet are, once the records are listed; how many are blank is known then. */
  async function tellFigures(): Promise<void> {
    const now = table.value!
    if (now.figures === null && now.columns.some(isComputed)) table.value = await steps.table()
  }

  /** The latest listing wins. */
  async function list(): Promise<void> {
    const mine = ++asking
    try {
      const found = await steps.list(listing.value)
      if (mine !== asking) return
      order.value = found
      tick.value++
      trouble.value = ''
    } catch (error) {
      if (mine === asking) trouble.value = messageOf(error)
    }
  }

  const edits = useTableEdits(steps, applied)

  function applied({ table: now, change, records }: ChangeAnswer): void {
    table.value = now
    const isAll = change!.records > records.length
    // A column more or less makes every record another, and so do figures that are computed anew.
    if (isAll || ANEW.test(change!.kind) || (now.figures === null && now.columns.some(isComputed))) forget()
    put(records)
    tick.value++
    // A value that no longer fits the filter stays where it was until the list is made anew: nothing jumps from under the hands.
    const isListedAnew = change!.kind === 'add records' || change!.kind === 'remove records' || change!.undoes !== null
    if (isListedAnew) void list()
    clearTimeout(pause)
    pause = setTimeout(() => void tellHeads(), PAUSE)
  }

  async function tellHeads(): Promise<void> {
    profile.value = await steps.profile().catch(() => profile.value)
  }

  async function movedElsewhere(): Promise<void> {
    try {
      table.value = await steps.table()
    } catch (error) {
      trouble.value = messageOf(error)
      return
    }
    forget()
    await list()
    await tellFigures().catch(() => undefined)
    await tellHeads()
  }

  steps.hear(() => ({ id: table.value?.id ?? 0, standsOn: table.value?.standsOn ?? [] }), (version) => {
    clearTimeout(late)
    const isNew = () => table.value !== null && (version === null || version > table.value.version)
    late = setTimeout(() => isNew() && edits.pending.value === 0 && void movedElsewhere(), PATIENCE)
  })
  watch(listing, () => table.value && void list())

  return { table, profile, order, tick, trouble, load, edits, lookAnew: movedElsewhere }
}
