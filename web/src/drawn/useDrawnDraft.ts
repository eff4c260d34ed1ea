/** A column that is drawn from elsewhere, as somebody chooses it: its name, unit and sentence, and what it would come to. */
import type { ChangeRequest } from '@dime-gate/contract/change'
import type { Calculation, Drawn } from '@dime-gate/contract/drawn'
import type { DrawnPreview } from '@dime-gate/contract/drawn-preview'
import type { Column, Table } from '@dime-gate/contract/table'
import { computed, ref, type Ref, shallowRef, watch } from 'vue'
import { messageOf } from '../shared/api'
import { drawnName, drawnSentence, drawnUnit, isChosen, keysBetween, type World } from './drawn-sentence'

export interface DrawnOn {
  world: Ref<World>
  /** Null for a new one. */
  column: Column | null
  begun: Drawn
  /** The record in focus. */
  record: Ref<number | null>
  preview(drawn: Drawn, record: number | null): Promise<DrawnPreview>
  /** Has a table's columns fetched, where they are not here yet. */
  wantTable(id: number): void
}

export function useDrawnDraft({ world, column, begun, record, preview, wantTable }: DrawnOn) {
  const drawn = shallowRef<Drawn>(column?.drawn ?? begun)
  const name = ref(column?.name ?? freeName())
  const unit = ref(column?.unit ?? '')
  const shown = shallowRef<DrawnPreview | null>(null)
  const trouble = ref('')
  /** Whether name and unit are those that follow from the sentence. */
  let [isNameOwn, isUnitOwn] = [column === null, column === null]

  function freeName(): string {
    const words = drawnName(drawn.value, world.value)
    const taken = new Set(world.value.table.columns.filter(({ id }) => id !== column?.id).map((one) => one.name))
    for (let number = 1; ; number++) {
      const candidate = number === 1 ? words : `${words} ${number}`
      if (!taken.has(candidate)) return candidate
    }
  }

  const sentence = computed(() => drawnSentence(drawn.value, world.value))
  /** The table whose records are taken; null where there is none. */
  const other = computed((): Pick<Table, 'id' | 'name' | 'columns'> | null => {
    const table = drawn.value.kind === 'related' ? drawn.value.table : calculation.value?.table
    return table === undefined ? null : world.value.other(table)
  })
  /** That of the record in focus, where each has its own. */
  const calculation = computed((): Calculation | null => {
    const of = drawn.value
    return of.kind === 'own' ? (of.calculations.find((one) => one.record === record.value) ?? null) : null
  })

  watch(
    [drawn, () => world.value.other, record],
    () => {
      const now = drawn.value
      if (now.kind === 'related') {
        wantTable(now.table)
        // As soon as the other table's columns are known, it is proposed by which the records meet.
        const there = world.value.other(now.table)
        if (now.keys.length === 0 && there) drawn.value = { ...now, keys: keysBetween(world.value.table.columns, there.columns) }
      } else if (now.kind === 'own') now.calculations.forEach((one) => wantTable(one.table))
      if (isNameOwn) name.value = freeName()
      if (isUnitOwn) unit.value = drawnUnit(drawn.value, world.value)
    },
    { immediate: true },
  )

  let asking = 0
  watch(
    [drawn, record],
    async () => {
      const mine = ++asking
      const now = drawn.value
      if (now.kind === 'label' || !isChosen(now)) {
        shown.value = null
        trouble.value = ''
        return
      }
      try {
        const found = await preview(now, record.value)
        if (mine !== asking) return
        shown.value = found
        trouble.value = ''
      } catch (error) {
        if (mine !== asking) return
        shown.value = null
        trouble.value = messageOf(error)
      }
    },
    { immediate: true },
  )

  function take(now: Drawn): void {
    drawn.value = now
  }

  /** The calculation of the record in focus. */
  function calculate(now: Calculation): void {
    const of = drawn.value
    if (of.kind !== 'own' || record.value === null) return
    const before = of.calculations.find((one) => one.record === record.value)
    const own = { record: record.value, ...now, places: before?.places ?? null, unit: before?.unit ?? (now.take === 'share' ? '%' : '') }
    const isThere = of.calculations.some((one) => one.record === own.record)
    drawn.value = {
      ...of,
      calculations: isThere ? of.calculations.map((one) => (one.record === own.record ? own : one)) : [...of.calculations, own],
    }
  }

  /** How the calculation of the record in focus is told. */
  const told = computed(() =>
    drawn.value.kind === 'own' ? (drawn.value.calculations.find((one) => one.record === record.value) ?? null) : null,
  )
  function tell(look: { places?: number | null; unit?: string }): void {
    const of = drawn.value
    if (of.kind === 'own')
      drawn.value = { ...of, calculations: of.calculations.map((one) => (one.record === record.value ? { ...one, ...look } : one)) }
  }

  const where = computed({
    get: () => (drawn.value.kind === 'related' ? drawn.value.where : calculation.value?.where) ?? '',
    set(text: string) {
      const value = text.trim() === '' ? null : text
      if (drawn.value.kind === 'related') drawn.value = { ...drawn.value, where: value }
      else if (calculation.value) {
        const { table, take: how, of } = calculation.value
        calculate({ table, take: how, of, where: value })
      }
    },
  })

  const isKeepable = computed(() => name.value.trim() !== '' && trouble.value === '' && isChosen(drawn.value))
  const request = (): ChangeRequest => {
    const what = { name: name.value.trim(), unit: unit.value.trim(), drawn: drawn.value }
    return column ? { kind: 'change drawn', column: column.id, ...what } : { kind: 'add drawn', ...what }
  }

  return {
    name: computed({ get: () => name.value, set: (text: string) => ((isNameOwn = false), (name.value = text)) }),
    unit: computed({ get: () => unit.value, set: (text: string) => ((isUnitOwn = false), (unit.value = text)) }),
    drawn,
    sentence,
    other,
    calculation,
    where,
    shown,
    trouble,
    isKeepable,
    take,
    calculate,
    told,
    tell,
    request,
  }
}
