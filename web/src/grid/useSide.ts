/** What the table has along one side of a grid: how its numbers are spread, or which of its values no line has. */
import type { GridGate } from '@dime-gate/core/gate/document'
import type { SideName } from '@dime-gate/core/gate/edit-grid'
import { folded } from '@dime-gate/core/gate/form'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import type { Remote } from 'comlink'
import { computed, shallowRef, watch } from 'vue'
import type { RecordsWorker } from '../records/records-worker'
import type { Spread } from '../records/session'

/** As many values as are offered beside a grid. */
const MOST_OFFERED = 40

export function useSide(gate: () => GridGate, side: SideName, session: Pick<Remote<RecordsWorker>, 'spread' | 'values'>, tick: () => number, renewed: () => number) {
  const spread = shallowRef<Spread | null>(null)
  const values = shallowRef<CommonValues | null>(null)
  // They change with the input, and with the table, but not with the cuts.
  const key = computed(() => { const { inputs, [side]: { kind, on } } = gate(); return JSON.stringify([kind, inputs.find(({ name }) => name === on), renewed()]) })
  watch([key, () => tick() > 0], async ([now, isReady]) => {
    if (!isReady) return
    const { kind, on } = gate()[side]
    const found = kind === 'scale' ? await session.spread(on) : await session.values(on)
    if (key.value !== now) return
    spread.value = kind === 'scale' ? (found as Spread | null) : null
    values.value = kind === 'list' ? (found as CommonValues | null) : null
  }, { immediate: true })

  /** Values of the table that stand in no line, the commonest first. */
  const missing = computed(() => {
    const of = gate()[side]
    if (of.kind !== 'list' || !values.value) return []
    const same = (value: string) => (of.folds ? folded(value) : value)
    const known = new Set(of.lines.flat().map(same))
    return values.value.values.filter(({ text }) => !known.has(same(text))).slice(0, MOST_OFFERED)
  })
  return { spread, missing }
}
