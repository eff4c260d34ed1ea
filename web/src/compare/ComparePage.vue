<script setup lang="ts">
/** Two gates, two versions, or a gate and a column entered by hand, side by side: how many agree, what differs, and why. */
import { bindingSchema, standingInputs } from '@dime-gate/contract/binding'
import { type Desk, deskSchema } from '@dime-gate/contract/desk'
import { feedingGateSchema, gateSchema } from '@dime-gate/contract/gate'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { columnsAsked } from '@dime-gate/contract/question'
import { type Table, tableSchema } from '@dime-gate/contract/table'
import type { Gate, Input } from '@dime-gate/core/gate/document'
import { givenInput } from '@dime-gate/core/gate/given-input'
import { labelsOf } from '@dime-gate/core/gate/edit-labels'
import { gateProblemWords } from '@dime-gate/core/gate/gate-problem-words'
import { landingName, type Landing, type Move } from '@dime-gate/core/result/moves'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { wrap } from 'comlink'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import { columnAddress } from '../records/column-address'
import MoveList from '../records/MoveList.vue'
import RecordList from '../records/RecordList.vue'
import { whileFetching } from '../records/while-fetching'
import { ruleWords } from '../rules/rule-words'
import { ask } from '../shared/api'
import { count, counted, share } from '../shared/format'
import { useMoves } from '../shared/moves'
import { useAsOf } from '../shared/useAsOf'
import { useTelling } from '../shared/useTelling'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import type { CompareWorker } from './compare-worker'
import { readSide, sideChoices, type SideChoice } from './side-choice'
import type { Compared, Comparing, Side, SideOfRecord } from './sides'

/** @property a and b what is compared, as the address says it */
const props = defineProps<{ on: number | null; a: string; b: string }>()
const router = useRouter()
const workspace = useWorkspace()
const { asOf } = useAsOf()
useTitle(() => 'Side by side')
const thread = new Worker(new URL('./compare-worker.ts', import.meta.url), { type: 'module' })
onScopeDispose(() => thread.terminate())
const session = wrap<CompareWorker>(thread)

const desk = shallowRef<Desk | null>(null)
const table = shallowRef<Table | null>(null)
const { trouble, tell } = useTelling()
const fetched = ref<number | null>(null)
const gates = shallowRef<(Gate | null)[]>([null, null])
const compared = shallowRef<Compared | null>(null)
/** Null: all that differs. */
const shown = shallowRef<{ from: string; to: string } | null>(null)
const total = ref(0)
const tick = ref(0)
const picked = shallowRef<{ record: number; sides: SideOfRecord[] } | null>(null)

const choices = computed(() => (desk.value && table.value ? sideChoices(desk.value.gates, table.value.id, table.value.columns) : []))
const titleOf = (text: string) => choices.value.find(({ value }) => value === text)?.title ?? 'nothing yet'
const names = computed(() => [titleOf(props.a), titleOf(props.b)])
/** The first side stands beside the second as what comes from elsewhere. */
const inputs = computed((): Input[] => [{ ...givenInput(names.value[0]!, 'text'), source: { kind: 'gate', gate: names.value[0]!, outcome: null } }])
const labels = computed(() => gates.value.flatMap((gate) => (gate ? labelsOf(gate).map(({ value, colour, mark }): LabelLook => ({ label: value, colour, mark })) : [])))
/** Columns that either side looks at. */
const looked = shallowRef<number[]>([])

const goTo = (change: object) => void router.replace({ query: { on: props.on ?? undefined, a: props.a || undefined, b: props.b || undefined, ...change } })

void tell(async () => {
  if (workspace.asOf === null) await workspace.load()
  desk.value = await ask(deskSchema, '/desk')
  if (props.on === null && desk.value.tables[0]) goTo({ on: desk.value.tables[0].id })
})
// What is corrected in the table meanwhile is compared anew.
useMoves(() => table.value, (version) => (version === null || version > (table.value?.version ?? Infinity)) && void tell(async () => void (table.value = await ask(tableSchema, `/tables/${props.on}`))))
watch(() => props.on, (on) => on !== null && tell(async () => {
  table.value = await ask(tableSchema, `/tables/${on}`)
}), { immediate: true })

let asking = 0
watch([() => props.a, () => props.b, table, asOf], async ([a, b, on, day]) => {
  const [first, second] = [readSide(a), readSide(b)]
  compared.value = null
  picked.value = null
  shown.value = null
  const mine = ++asking
  if (!first || !second || !on || day === null) return
  await tell(async () => {
    const both = await Promise.all([sideOf(first, on, day), sideOf(second, on, day)])
    gates.value = both.map(({ gate }) => gate)
    const columns = [...new Set(both.flatMap(({ side }) => (side.kind === 'column' ? [side.column] : columnsAsked(side.asked))))]
    looked.value = columns
    const [one, other] = both.map(({ side }) => side) as [Side, Side]
    const found = await whileFetching(fetched, async (progress): Promise<Comparing> => session.compare([one, other], columns.map((id) => columnAddress(on, id, day)), `${on.id} ${on.version} ${day}`, progress))
    // Something else is asked by now.
    if (mine !== asking) return
    if ('tooMany' in found) throw new Error(`${titleOf([a, b][found.tooMany]!)} has too many different values to be labels.`)
    if ('problems' in found) throw new Error(`${titleOf([a, b][found.side]!)} cannot decide. ${gateProblemWords(found.problems[0]!)}`)
    compared.value = found.compared
    await list()
  })
}, { immediate: true })
watch(shown, () => void list())

async function list(): Promise<void> {
  total.value = await session.list(shown.value && { ...shown.value })
  tick.value++
}

async function sideOf(choice: SideChoice, on: Table, day: string): Promise<{ side: Side; gate: Gate | null }> {
  if (choice.kind === 'column') return { side: { kind: 'column', column: choice.id }, gate: null }
  const { id, version } = choice
  const [gate, binding] = await Promise.all([
    version === 'draft' ? ask(gateSchema, `/gates/${id}`).then(({ draft }) => draft) : ask(gateDocumentSchema, `/gates/${id}/versions/${version}`),
    ask(bindingSchema, `/gates/${id}/bindings/${on.id}`),
  ])
  const isFed = gate.inputs.some(({ source }) => source.kind === 'gate')
  const feeding = isFed ? await ask(z.array(feedingGateSchema), `/gates/${id}/feeding/${on.id}`) : []
  return { gate, side: { kind: 'gate', asked: { gate, inputs: standingInputs(binding.inputs, on), feeding, asOf: day } } }
}

function show({ from, to }: Move): void {
  const move = { from: landingName(from), to: landingName(to) }
  shown.value = shown.value?.from === move.from && shown.value.to === move.to ? null : move
}

async function pick(record: number): Promise<void> {
  const sides = await session.sidesOf(record)
  picked.value = { record, sides }
}

const landingWords = (landing: Landing) => (landing.kind === 'label' ? landing.label : landing.kind)
const PARTS = { scale: 'its band', match: 'its tray', grid: 'its cell' }
/** By which rule, band, tray or cell a side came to what it says. */
function because(at: number, { rule, isOtherwise, landing }: SideOfRecord): string {
  const gate = gates.value[at]
  if (!gate) return landing.kind === 'blank' ? 'nobody entered one' : 'as it was entered'
  if (rule !== null) return `${gate.form === 'rules' ? `rule ${rule + 1}` : PARTS[gate.form]}: ${ruleWords(gate)[rule]?.takes ?? ''}`
  return isOtherwise ? 'no rule takes it: otherwise' : landing.kind === 'held' ? 'it waits for a value' : 'no rule takes it'
}
</script>

<template>
  <section class="compare">
    <header>
      <h1>Side by side</h1>
      <v-select :model-value="on" :items="(desk?.tables ?? []).map((one) => ({ value: one.id, title: one.name }))" label="On the table" class="pick" @update:model-value="goTo({ on: $event, a: undefined, b: undefined })" />
      <v-select :model-value="a || null" :items="choices" label="One side" class="pick" @update:model-value="goTo({ a: $event })" />
      <v-btn aria-label="Swap the sides" :disabled="!a || !b" @click="goTo({ a: b, b: a })">⇄</v-btn>
      <v-select :model-value="b || null" :items="choices" label="The other" class="pick" @update:model-value="goTo({ b: $event })" />
    </header>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <p v-else-if="!a || !b" class="second empty">Choose two: gates as they are drafted, versions that were set, or a column that was entered by hand. What they give the same records stands here.</p>
    <div v-else-if="!compared" class="second empty" role="status">{{ fetched === null ? 'Comparing …' : `Fetching what they look at: ${count(fetched)} of ${count(table?.records ?? 0)} records` }}</div>
    <template v-else>
      <div class="told">
        <div>
          <p class="agree"><b class="figure">{{ count(compared.agreed) }}</b> of {{ counted(compared.records, 'record') }} {{ compared.agreed === 1 ? 'agrees' : 'agree' }}, <span class="figure">{{ share(compared.agreed, compared.records) }}</span></p>
          <p v-if="compared.written > 0">{{ counted(compared.written, 'record differs', 'records differ') }} only in how the label is written:</p>
          <MoveList v-if="compared.writings.length > 0" :moves="compared.writings" :labels="labels" @show="$event.kind === 'moved' && (shown = { from: $event.from, to: $event.to })" />
        </div>
        <div class="moves">
          <h2>{{ compared.moves.length === 0 ? 'Nothing else differs' : 'What differs' }}</h2>
          <MoveList :moves="compared.moves" :labels="labels" @show="$event.kind === 'moved' && show(compared!.moves.find((one) => landingName(one.from) === $event.from && landingName(one.to) === $event.to)!)" />
        </div>
        <aside aria-label="Why">
          <template v-if="picked">
            <h2>Record {{ picked.record }}</h2>
            <div v-for="(side, at) in picked.sides" :key="at" class="why" data-why><span class="second">{{ names[at] }}</span><b>{{ landingWords(side.landing) }}</b><span>{{ because(at, side) }}</span></div>
          </template>
          <p v-else-if="total > 0" class="second">Choose a record to see why each side says what it says.</p>
        </aside>
      </div>
      <p class="shown"><b>{{ shown ? `${shown.from.replace(/^label /, '')} → ${shown.to.replace(/^label /, '')}` : 'All that differs' }}</b> <span class="figure">{{ count(total) }}</span> <button v-if="shown" class="plain-button act" type="button" @click="shown = null">Show all that differs</button></p>
      <RecordList
        v-if="table" class="records" :table-id="table.id" :as="{ version: table.version, asOf: asOf ?? undefined }" :figures="table.figures" :columns="table.columns" :looked="looked" :inputs="inputs" :labels="labels" :total="total" :rows="(from, to) => session.window(from, to)" :tick="tick"
        empty="No record differs." @pick="(record) => pick(record)"
      />
    </template>
  </section>
</template>

<style scoped>
.compare { display: grid; grid-template-rows: auto auto auto minmax(200px, 1fr); grid-template-columns: minmax(0, 1fr); min-height: calc(100dvh - 48px); padding: 16px 0 0; }
header { display: flex; flex-wrap: wrap; gap: 10px 14px; align-items: center; padding: 0 20px 14px; }
h1 { margin-right: 8px; }
.pick { flex: 1 1 200px; max-width: 320px; }
.empty { padding: 30px 20px; max-width: 640px; }
.notice { margin: 0 20px; }
.told { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr) 318px; gap: 26px; padding: 4px 20px 14px; max-height: 40dvh; overflow: auto; }
.agree { font-size: 17px; padding-bottom: 6px; }
.agree b { font-size: 22px; }
aside { display: grid; gap: 8px; align-content: start; padding-left: 18px; border-left: 1px solid var(--hairline); }
.why { display: grid; gap: 1px; padding-bottom: 6px; border-bottom: 1px solid var(--hairline); font-size: 14px; overflow-wrap: anywhere; }
.shown { display: flex; gap: 10px; align-items: baseline; padding: 8px 20px 6px; border-top: 1px solid var(--hairline); }
.act { color: var(--pine); font-weight: 600; min-height: 24px; }
.records { min-height: 260px; }
@media (max-width: 980px) {
  .told { grid-template-columns: minmax(0, 1fr); max-height: none; }
  aside { border-left: 0; padding-left: 0; }
}
</style>
