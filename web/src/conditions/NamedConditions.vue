<script setup lang="ts">
/** The named conditions of a gate: built alone against the records, used by their names in its rules and in other gates. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { KnownCondition } from '@dime-gate/contract/condition'
import type { RulesGate, SharedCondition } from '@dime-gate/core/gate/document'
import { addCondition, conditionsOf, editCondition, freeConditionName, inlineCondition, namesIn, parcelOf, renameCondition, usesOf } from '@dime-gate/core/gate/named-conditions'
import { takenOut } from '@dime-gate/core/rule/edit-condition'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import type { LabelLook, Tray } from '@dime-gate/core/result/tray'
import type { Remote } from 'comlink'
import { computed, nextTick, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'
import MoveList from '../records/MoveList.vue'
import type { RecordsWorker } from '../records/records-worker'
import type { ToldMoves } from '../records/session'
import { useSessionLater } from '../records/useSession'
import { messageOf } from '../shared/api'
import { counted } from '../shared/format'
import NamedRow from './NamedRow.vue'
import { type MovesElsewhere, movesElsewhere } from './moves-elsewhere'
import { ruleList } from './rule-list'
import type { OnTable } from './subjects'

const props = defineProps<{
  id: number
  gate: RulesGate
  inputs: BoundInputs
  known: readonly KnownCondition[]
  session: Remote<RecordsWorker>
  tick: number
  labels: readonly LabelLook[]
  asOf: string
  /** By a condition's id, texts that are none yet. */
  unfinished: Map<number | string, string>
  /** Which records another state of the gate gives other labels. */
  compare: (gate: RulesGate, inputs: BoundInputs) => Promise<ToldMoves | null>
}>()
const emit = defineEmits<{ change: [gate: RulesGate, inputs: BoundInputs, step: string | null]; changed: [] }>()
const tray = defineModel<Tray>('tray', { required: true })
/** Id of the one that is open. */
const open = defineModel<string | null>('open', { required: true })

const rows = useTemplateRef<InstanceType<typeof NamedRow>[]>('rows')
const holds = shallowRef<ReadonlyMap<string, number>>(new Map())
const parts = shallowRef<ReadonlyMap<string, number>>(new Map())
/** The gate as it was when the condition was opened: what moves is told from there. */
const was = shallowRef<OnTable | null>(null)
/** Undefined as long as it is worked out; null where it cannot be told. */
const here = shallowRef<ToldMoves | null | undefined>(undefined)
const elsewhere = shallowRef<MovesElsewhere[] | null>(null)
const trouble = ref('')

const conditions = computed(() => conditionsOf(props.gate))
const opened = computed(() => conditions.value.find(({ id }) => id === open.value) ?? null)
const before = computed(() => (was.value ? conditionsOf(was.value.gate).find(({ id }) => id === open.value) : undefined))
const isChanged = computed(() => !!before.value && !!opened.value && before.value.feel !== opened.value.feel)
const othersOf = (id: string) => (props.known.find((one) => one.id === id)?.gates ?? []).filter((gate) => gate.id !== props.id)
const takenBy = (own: SharedCondition) => [...namesIn(props.gate), ...props.known.filter(({ id }) => id !== own.id).map(({ name }) => name)].filter((name) => name !== own.name)
/** Itself, and whatever is said with it. */
const ringsOf = ({ id, name }: SharedCondition) => new Set([name, ...conditions.value.filter((one) => parcelOf(props.gate, one.id).conditions.some((needed) => needed.id === id)).map((one) => one.name)])
const chosen = computed(() => (tray.value.kind === 'condition' ? tray.value.name : null))
const shownPart = computed(() => (tray.value.kind === 'condition' ? tray.value.way.join('.') : null))

watch(open, (id) => {
  was.value = id === null ? null : { gate: props.gate, inputs: props.inputs }
  here.value = undefined
  elsewhere.value = null
}, { immediate: true })

watch([() => props.tick, () => conditions.value.length, open], async () => {
  // Most gates have none: then nobody is asked.
  if (conditions.value.length === 0 && holds.value.size === 0) return
  const [all, own] = [await props.session.conditions(), opened.value ? await props.session.partsOfCondition(opened.value.name) : []]
  holds.value = new Map(all)
  parts.value = new Map(own)
}, { immediate: true })

/** What moves is worked out once nothing changes for a while. */
const PAUSE = 400
let pause: ReturnType<typeof setTimeout> | undefined
const otherSession = useSessionLater()
onScopeDispose(() => clearTimeout(pause))
/** In which other gates it has to be looked at; known a little later than the gate itself. */
const places = computed(() => (opened.value ? othersOf(opened.value.id).map(({ id, table }) => `${id} ${table}`).join() : ''))
watch([() => props.tick, isChanged, opened, places], () => {
  clearTimeout(pause)
  if (!isChanged.value) {
    here.value = undefined
    elsewhere.value = null
    return
  }
  pause = setTimeout(() => void lookAtMoves(), PAUSE)
})

async function lookAtMoves(): Promise<void> {
  const [one, from, now] = [opened.value, was.value, props.gate]
  if (!one || !from) return
  // What it looked at before may be no input any more.
  const gone = from.gate.inputs.filter(({ name }) => !now.inputs.some((own) => own.name === name))
  const earlier = editCondition({ ...now, inputs: [...now.inputs, ...gone] }, one.id, before.value!.feel)
  const isOf = () => opened.value === one && was.value === from
  const { tick } = props
  try {
    const found = await props.compare(earlier, { ...from.inputs, ...props.inputs })
    // Of what was decided anew meanwhile it is asked again.
    if (isOf() && props.tick === tick) here.value = found
    const told: MovesElsewhere[] = []
    for (const gate of othersOf(one.id)) {
      if (gate.table === null) continue
      told.push(await movesElsewhere(otherSession(), gate, one.id, earlier, now, props.asOf))
      if (!isOf() || props.tick !== tick) return
    }
    elsewhere.value = told
    trouble.value = ''
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

const moving = ({ moves }: ToldMoves) => moves.reduce((sum, { records }) => sum + records, 0)

function change(gate: RulesGate, inputs: BoundInputs = props.inputs, step: string | null = null): void {
  emit('change', gate, inputs, step)
}

async function openAt(id: string, way: string, part: string): Promise<void> {
  open.value = id
  const { name } = conditions.value.find((one) => one.id === id)!
  if (chosen.value !== name) tray.value = { kind: 'condition', name, way: [] }
  await nextTick()
  rowOf(id)?.focus(way, part)
}
const rowOf = (id: string) => rows.value?.find((row) => row.$props.condition.id === id)

function rename({ id, name: now }: SharedCondition, name: string): void {
  change(renameCondition(props.gate, id, name))
  if (chosen.value === now) tray.value = { kind: 'condition', name, way: [] }
}

function inline(id: string): void {
  open.value = null
  if (chosen.value !== null) tray.value = { kind: 'all' }
  change(inlineCondition(props.gate, id))
  emit('changed')
}

function close(): void {
  open.value = null
  emit('changed')
}

/**
 * A condition of its own, under a name that is to be chosen next.
 * @param into the gate once it is there: the rule that it was part of says its name from then on
 */
async function add(feel: string, into: (gate: RulesGate, name: string) => RulesGate = (gate) => gate): Promise<void> {
  const name = freeConditionName(props.gate, props.known.map((one) => one.name))
  const id = crypto.randomUUID()
  change(into(addCondition(props.gate, { id, name, feel }), name))
  await nextTick()
  open.value = id
  tray.value = { kind: 'condition', name, way: [] }
  await nextTick()
  rowOf(id)?.focusName()
}

/** A part of a condition's text is written once from here on. @param put the whole text, with the name in place of the part */
function nameIn(feel: string, way: number[], put: (gate: RulesGate, text: string) => RulesGate): void {
  const read = readCondition(feel, typesIn(props.gate))
  const out = 'condition' in read ? takenOut(read.condition, way) : null
  if (out) void add(out.feel, (gate, name) => put(gate, out.withName(name)))
}

defineExpose({ add, nameIn, close, open: (name: string) => { const one = conditions.value.find((own) => own.name === name); if (one) void openAt(one.id, '', 'subject') } })
</script>

<template>
  <section v-if="conditions.length > 0" class="once" aria-label="Named conditions" @keydown.esc="open !== null && ($event.stopPropagation(), close())">
    <ul>
      <NamedRow
        v-for="one in conditions" :key="one.id" ref="rows" :gate="gate" :condition="one" :holds="holds.get(one.name) ?? null" :uses="usesOf(gate, one.name)" :others="othersOf(one.id)"
        :is-open="open === one.id" :is-chosen="chosen === one.name" :parts="parts" :shown-part="shownPart" :unfinished="unfinished.get(one.id) ?? null" :taken="takenBy(one)" :rings="ringsOf(one)"
        @choose="tray = chosen === one.name && shownPart === '' ? { kind: 'all' } : { kind: 'condition', name: one.name, way: [] }" @open="(way, part) => openAt(one.id, way, part)" @close="close"
        @change="(text, on, step) => change(editCondition(on.gate, one.id, text), on.inputs, step)" @unfinished="$event === null ? unfinished.delete(one.id) : unfinished.set(one.id, $event)"
        @rename="rename(one, $event)" @show="tray = { kind: 'condition', name: one.name, way: $event }" @inline="inline(one.id)" @name="nameIn(one.feel, $event, (gate, text) => editCondition(gate, one.id, text))"
      >
        <div v-if="isChanged || trouble || othersOf(one.id).length > 0" class="moves">
          <p v-if="othersOf(one.id).length > 0" class="second">Changed here, it changes in <template v-for="(gate, at) in othersOf(one.id)" :key="gate.id"><template v-if="at > 0">, </template><router-link :to="{ path: `/gates/${gate.id}`, query: gate.table === null ? {} : { on: gate.table } }">{{ gate.name }}</router-link>{{ gate.rules.length > 0 ? ` (${ruleList(gate.rules)})` : '' }}</template> too.</p>
          <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
          <template v-if="isChanged">
            <p v-if="here === undefined" class="second">Looking at what moves …</p>
            <p v-else-if="here === null" class="second">What moves here cannot be told: one of the two states cannot decide.</p>
            <template v-else>
              <p><b>Here</b> {{ here.moves.length === 0 ? 'no record moves' : `${counted(moving(here), 'record moves', 'records move')}` }}</p>
              <MoveList v-if="here.moves.length > 0" :moves="here.moves" :labels="labels" @show="tray = $event" />
            </template>
            <div v-for="there in elsewhere" :key="there.gate.id">
              <p><b>{{ there.gate.name }}</b> on {{ there.table }}: {{ !there.moves ? 'it cannot decide with this' : there.moves.moves.length === 0 ? 'no record moves' : counted(moving(there.moves), 'record moves', 'records move') }}</p>
              <MoveList v-if="there.moves && there.moves.moves.length > 0" :moves="there.moves.moves" :labels="[]" is-told />
            </div>
          </template>
        </div>
      </NamedRow>
    </ul>
  </section>
</template>

<style scoped>
.once { padding-bottom: 6px; }
ul { list-style: none; margin: 0; padding: 0; }
.moves { display: grid; gap: 4px; padding: 4px; font-size: 13.5px; max-width: 460px; }
</style>
