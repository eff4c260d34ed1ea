/** A record that is tried on the bench, and the examples that are kept with the gate. */
import type { Cell, Table } from '@dime-gate/contract/table'
import { recordsSchema } from '@dime-gate/contract/table'
import type { Example } from '@dime-gate/core/gate/document'
import type { Tray } from '@dime-gate/core/result/tray'
import { computed, type Ref, ref, watch } from 'vue'
import type { Placed } from '../rules/course'
import type { Asked } from '../records/session'
import { askWith, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { checkExamples, typedExample, typedRecord } from './trial'

export type Trying = ReturnType<typeof useTrial>

/** @param firstIn the first record of a tray @param made values that a rule takes, where no record has any */
export function useTrial(tried: Ref<Asked | null>, table: Ref<Table | null>, firstIn: (tray: Tray) => Promise<number | null>, made: (question: Asked, rule: number) => Promise<Record<string, string> | null>) {
  const notices = useNotices()
  /** By input, as it was typed. */
  const typed = ref<Record<string, string>>({})
  /** Who it is, where it was taken from the list. */
  const from = ref<string | null>(null)
  /** Where it falls. */
  const coin = ref<Placed['at'] | null>(null)
  const examples = computed(() => (tried.value ? checkExamples(tried.value, tried.value.asOf) : []))
  /** Rules that take an example which should go elsewhere. */
  const broken = computed(() => new Set(examples.value.filter(({ isMet }) => !isMet).map(({ rule }) => rule)))
  watch(typed, (now) => Object.values(now).every((text) => text === '') && (coin.value = null))

  function takeRecord(record: number, cells: Cell[]): void {
    if (!tried.value) return
    const { columns } = table.value!
    typed.value = typedRecord(tried.value, columns, cells)
    const at = columns.findIndex(({ isIdentity }) => isIdentity)
    from.value = cells[at]?.[0] || cells[at]?.[1] || `record ${record}`
  }

  function takeExample(example: Pick<Example, 'values'>): void {
    from.value = null
    typed.value = typedExample(tried.value!, example)
  }

  /** A record of the table that a rule takes; where it has none, one that is made for it. */
  async function takeForRule(takenBy: number | 'rest'): Promise<void> {
    const { value: question } = tried
    if (!question) return
    try {
      const record = await firstIn(takenBy === 'rest' ? { kind: question.gate.otherwise ? 'otherwise' : 'unplaced' } : { kind: 'rule', rule: takenBy })
      const [found] = record === null ? [] : await askWith(recordsSchema, 'POST', `/tables/${table.value!.id}/records`, { records: [record], version: table.value!.version, asOf: question.asOf })
      if (found) return takeRecord(found.record, found.cells)
      const values = takenBy === 'rest' ? null : await made(question, takenBy)
      if (values) takeExample({ values })
      else notices.say(takenBy === 'rest' ? 'Every record of this table is taken by a rule.' : `No record is known that gets to rule ${takenBy + 1}.`)
    } catch (error) {
      notices.warn(messageOf(error))
    }
  }

  return { typed, from, coin, examples, broken, takeRecord, takeExample, takeForRule }
}
