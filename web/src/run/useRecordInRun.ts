/** One record of a run: its values as the run saw them and as they are now, and what it got in other runs. */
import { type RecordInRun, recordInRunSchema } from '@dime-gate/contract/comparison'
import type { Run } from '@dime-gate/contract/run'
import { type Cell, recordsSchema, tableSchema } from '@dime-gate/contract/table'
import { ref, shallowRef, watch } from 'vue'
import { z } from 'zod'
import { ask, askWith, messageOf } from '../shared/api'

/** @param of the run and the record that are looked at; null for none */
export function useRecordInRun(of: () => { run: Pick<Run, 'id' | 'tableId'>; record: number } | null) {
  /** By the run's columns. */
  const then = shallowRef<Cell[] | null>(null)
  /** By column its value now; null where the record is gone, undefined before that is known. */
  const now = shallowRef<ReadonlyMap<number, Cell> | null | undefined>(undefined)
  const history = shallowRef<RecordInRun[]>([])
  const trouble = ref('')
  let round = 0

  async function look(): Promise<void> {
    const asked = of()
    const mine = ++round
    trouble.value = ''
    if (!asked) return
    const { run: { id, tableId }, record } = asked
    try {
      const [runs, table, [seen], [found]] = await Promise.all([
        ask(z.array(recordInRunSchema), `/runs/${id}/records/${record}/runs`), ask(tableSchema, `/tables/${tableId}`),
        askWith(recordsSchema, 'POST', `/tables/${tableId}/records`, { records: [record], run: id }),
        askWith(recordsSchema, 'POST', `/tables/${tableId}/records`, { records: [record] }),
      ])
      if (mine !== round) return
      history.value = runs
      then.value = seen?.cells ?? null
      now.value = found ? new Map(table.columns.map((column, at) => [column.id, found.cells[at]!])) : null
    } catch (error) {
      if (mine === round) trouble.value = messageOf(error)
    }
  }

  watch(() => { const asked = of(); return asked && `${asked.run.id} ${asked.record}` }, () => {
    then.value = null
    now.value = undefined
    history.value = []
    void look()
  }, { immediate: true })

  return { then, now, history, trouble, look }
}
