/** What the labels look like that stand in a table's columns. */
import { gateSchema } from '@dime-gate/contract/gate'
import type { LabelLook } from '@dime-gate/core/result/tray'
import type { Column } from '@dime-gate/contract/table'
import { shallowRef, watch } from 'vue'
import { ask } from '../shared/api'

/** @returns by column and label; and by column the name of the outcome that it holds */
export function useLooks(columns: () => readonly Pick<Column, 'id' | 'drawn'>[]) {
  const looks = shallowRef<ReadonlyMap<number, ReadonlyMap<string, LabelLook>>>(new Map())
  const outcomes = shallowRef<ReadonlyMap<number, string>>(new Map())
  watch(
    () =>
      JSON.stringify(columns().flatMap(({ id, drawn }) => (drawn?.kind === 'label' ? [[id, drawn.gate, drawn.outcome, drawn.from]] : []))),
    async (text) => {
      const wanted = JSON.parse(text) as [id: number, gate: number, outcome: number, from: 'version' | 'draft'][]
      const found = new Map<number, ReadonlyMap<string, LabelLook>>()
      const names = new Map<number, string>()
      for (const [id, gate, outcome, from] of wanted) {
        // Without its look a label is still its word.
        const known = await ask(gateSchema, `/gates/${gate}`).catch(() => null)
        const document = from === 'draft' ? known?.draft : known?.latest
        const labels = document?.outcomes[outcome]?.labels ?? []
        if (document?.outcomes[outcome]) names.set(id, document.outcomes[outcome].name)
        found.set(id, new Map(labels.map(({ value, colour, mark }) => [value, { label: value, colour, mark }])))
      }
      looks.value = found
      outcomes.value = names
    },
    { immediate: true },
  )
  return { looks, outcomes }
}
