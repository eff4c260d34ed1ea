<script setup lang="ts">
/** Two runs of one table, or a run and its gate's draft: what moved from which label to which, and why. */
import { type Comparison, comparisonSchema, type KeptMove, movedSchema, type MoveReason, moveReasonsSchema } from '@dime-gate/contract/comparison'
import { deskSchema } from '@dime-gate/contract/desk'
import { type Run, runSchema, type RunSummary } from '@dime-gate/contract/run'
import { changesBetween } from '@dime-gate/core/gate/changes'
import { computed, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { changeWords } from '../bench/version-words'
import { useCommands } from '../finder/commands'
import { useRun } from '../run/useRun'
import { ask, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count, counted, moment } from '../shared/format'
import TakeOut from '../shared/TakeOut.vue'
import { useTitle } from '../shared/useTitle'
import { runTitle } from '../shared/words'
import { differenceLines, placeWords, rankMoves, reasonRemark, reasonText, wholeWords } from './comparison-words'
import FlowPicture from './FlowPicture.vue'
import { placeKey } from './flows'
import MovedList from './MovedList.vue'

/** @property other null for the draft as it is now */
const props = defineProps<{ id: number; other: number | null }>()
const router = useRouter()
const route = useRoute()
const comparison = shallowRef<Comparison | null>(null)
const pair = shallowRef<{ before: Run; after: Run } | null>(null)
/** Null while they are looked for. */
const reasons = shallowRef<MoveReason[] | null>(null)
const others = shallowRef<RunSummary[]>([])
const move = shallowRef<Pick<KeptMove, 'from' | 'to'> | null>(null)
const reason = ref<number | null>(null)
const total = ref(0)
const tick = ref(0)
/** The run that it is compared with; of the draft there is one only once it is begun. */
const later = ref(props.other)
const path = computed(() => `/runs/${props.id}/against/${later.value}`)

async function look(): Promise<Run> {
  if (later.value !== null) return ask(runSchema, `/runs/${later.value}`)
  const begun = await askWith(runSchema, 'POST', `/runs/${props.id}/draft`, {})
  later.value = begun.id
  return begun
}

/** A run that was just begun is waited for. */
const { run: latest, trouble, follow } = useRun(look, async (after) => {
  const [before, found] = await Promise.all([ask(runSchema, `/runs/${props.id}`), ask(comparisonSchema, path.value)])
  pair.value = { before, after }
  comparison.value = found
  void ask(deskSchema, '/desk').then(({ runs }) => (others.value = runs.filter(({ id, tableId, state }) => tableId === after.tableId && state === 'done' && id !== props.id)), () => undefined)
  reasons.value = await ask(moveReasonsSchema, `${path.value}/reasons`)
  await list()
})
void follow()

/** The draft may be another by now, and so may the table. */
function anew(): void {
  later.value = props.other
  reasons.value = null
  move.value = null
  reason.value = null
  void follow()
}
useReturn(() => trouble.value && void follow())
useTitle(() => pair.value && `${runTitle(pair.value.before)} against ${runTitle(pair.value.after)}`)
useCommands([
  { words: 'Swap the runs', key: 's', act: () => void router.push(`/runs/${props.other}/against/${props.id}`), isOff: () => props.other === null },
  { words: 'Compare with the draft as it is now', key: 'r', act: anew, isOff: () => props.other !== null || !comparison.value },
  { words: 'Show all that moved', key: 'Escape', act: () => show(null, null), isOff: () => move.value === null && reason.value === null },
])

const labels = computed(() => {
  const { before, after } = pair.value ?? { before: null, after: null }
  const all = [...(after?.labels ?? []), ...(after?.otherwise ? [after.otherwise] : []), ...(before?.labels ?? []), ...(before?.otherwise ? [before.otherwise] : [])]
  return all.filter(({ label }, at) => all.findIndex((one) => one.label === label) === at)
})
const ranks = computed(() => comparison.value && rankMoves(comparison.value))
const differences = computed(() => (comparison.value ? differenceLines(comparison.value.differences) : []))
/** What was changed in the gate, where it is one gate in two versions. */
const gateChanges = computed(() => {
  if (!pair.value || !comparison.value?.differences.gate) return []
  const { before, after } = pair.value
  return before.gateId === after.gateId ? changesBetween({ ...before.gate, name: after.gate.name }, after.gate).map((change) => changeWords(change, before.gate, after.gate)) : []
})

const rows = async (from: number, some: number) => (await moved(from, some)).rows
const moved = (from: number, some: number) => askWith(movedSchema, 'POST', `${path.value}/moved`, { move: move.value && { from: move.value.from, to: move.value.to }, reason: reason.value, from, count: some })

async function list(): Promise<void> {
  try {
    total.value = (await moved(0, 0)).total
    tick.value++
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

function show(nextMove: Pick<KeptMove, 'from' | 'to'> | null, nextReason: number | null): void {
  move.value = nextMove
  reason.value = nextReason
  if (reasons.value) void list()
}

const shownWords = computed(() => {
  if (reason.value !== null) return reasonText(reasons.value![reason.value]!)
  return move.value ? `${placeWords(move.value.from, false)} → ${placeWords(move.value.to, true)}` : 'all that moved'
})
const pick = (run: RunSummary) => `${runTitle(run)}, version ${run.gateVersion}, ${moment(run.keptAt)}`
</script>

<template>
  <section v-if="trouble" class="trouble-page"><p class="notice problem" role="alert">{{ unlessAway(trouble) }}</p><p class="ways"><v-btn @click="follow">Try again</v-btn><router-link to="/runs">Go to the runs</router-link></p></section>
  <section v-else-if="comparison && pair" :key="route.path" class="comparison">
    <header>
      <h1><router-link :to="`/runs/${pair.before.id}`">{{ runTitle(pair.before) }}</router-link> against <router-link v-if="pair.after.isDraft" :to="{ path: `/gates/${pair.after.gateId}`, query: { on: pair.after.tableId } }">the draft</router-link><router-link v-else :to="`/runs/${pair.after.id}`">{{ pair.before.gateId === pair.after.gateId && !pair.after.name ? `run ${pair.after.number}` : runTitle(pair.after) }}</router-link></h1>
      <span class="second">on <b>{{ pair.after.tableName }}</b></span>
      <span class="space" />
      <v-btn v-if="other === null" @click="anew">As it is now<kbd>R</kbd></v-btn>
      <v-btn v-else :to="`/runs/${other}/against/${id}`">Swap<kbd>S</kbd></v-btn>
      <v-menu v-if="others.length > (other === null ? 0 : 1)" location="bottom end">
        <template #activator="{ props: menu }"><v-btn v-bind="menu">Against another</v-btn></template>
        <v-list density="compact"><v-list-item v-for="run in others" :key="run.id" :title="pick(run)" :to="`/runs/${id}/against/${run.id}`" /></v-list>
      </v-menu>
      <TakeOut v-if="reasons && total > 0" :path="`${path}/moved`" :records="total" label="Take the moved records" />
    </header>
    <div class="work">
      <div class="picture">
        <p class="whole" role="status">{{ wholeWords(comparison) }} <template v-if="ranks && ranks.up + ranks.down > 0"><b class="up">{{ count(ranks.up) }} went up</b>, <b class="trouble">{{ count(ranks.down) }} down</b>.</template></p>
        <FlowPicture :comparison="comparison" :labels="labels" :chosen="move" @choose="show($event, null)" />
      </div>
      <aside aria-label="Why">
        <h2>Why they moved</h2>
        <p v-if="comparison.moves.length === 0" class="second">Nothing moved.</p>
        <p v-else-if="!reasons" class="second" role="status">Looking for why …</p>
        <button v-for="(one, at) in reasons ?? []" :key="at" class="plain-button reason" :class="{ shown: reason === at }" type="button" :aria-pressed="reason === at" :data-reason="one.sets.map((set) => set.join(' + ')).join(' or ')" @click="show(null, reason === at ? null : at)">
          <b class="figure">{{ count(one.records) }}</b><span>{{ reasonText(one) }}<span v-if="reasonRemark(one)" class="second remark">{{ reasonRemark(one) }}</span></span>
        </button>
        <h2 class="differences">What changed between them</h2>
        <p v-if="differences.length === 0" class="second">Nothing: both were made of the same.</p>
        <template v-for="(line, at) in differences" :key="line">
          <p class="difference">{{ line }}</p>
          <ul v-if="at === 0 && gateChanges.length > 0" class="second"><li v-for="words in gateChanges" :key="words">{{ words }}</li></ul>
        </template>
      </aside>
    </div>
    <div class="records">
      <p class="shown"><b>Records</b> <span class="here">{{ shownWords }} {{ reasons ? count(total) : '' }}</span><button v-if="move || reason !== null" class="plain-button second" type="button" @click="show(null, null)">all that moved</button><span class="space" /><span class="second"><kbd>Esc</kbd> shows all that moved</span></p>
      <MovedList v-if="reasons" :key="`${move ? placeKey(move.from) + placeKey(move.to) : ''} ${reason}`" :before="pair.before" :after="pair.after" :labels="labels" :reasons="reasons" :total="total" :rows="rows" :tick="tick" />
    </div>
  </section>
  <section v-else-if="latest && latest.state !== 'done'" class="under-way">
    <h1>{{ runTitle(latest) }}</h1>
    <template v-if="latest.state === 'under way'">
      <p role="status"><b class="figure">{{ count(latest.progress ?? 0) }}</b> of {{ counted(latest.records, 'record') }} decided; then the two are compared.</p>
      <v-progress-linear :model-value="(100 * (latest.progress ?? 0)) / Math.max(1, latest.records)" color="primary" height="4" aria-label="Records decided" />
    </template>
    <template v-else><p class="notice problem" role="alert">{{ latest.problem }}</p><p v-if="other === null" class="ways"><v-btn @click="anew">Try again</v-btn></p></template>
  </section>
  <p v-else class="second waiting" role="status">Comparing …</p>
</template>

<style scoped>
.comparison { display: grid; grid-template-rows: auto auto minmax(220px, 1fr); height: calc(100dvh - 48px); min-height: 760px; }
header .v-btn { color: var(--ink); }
aside ul { padding-left: 18px; font-size: 13px; }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; padding: 10px 20px 8px; }
h1 a { color: var(--ink); text-decoration: none; }
h1 a:hover { text-decoration: underline; text-underline-offset: 4px; }
.space { flex: 1; }
.work { display: grid; grid-template-columns: minmax(0, 1fr) 400px; min-height: 0; max-height: 470px; }
.picture { padding: 0 20px 8px; overflow: auto; }
.whole { padding-bottom: 8px; }
.up { color: var(--pine); }
aside { display: grid; gap: 4px; align-content: start; padding: 0 20px 8px; border-left: 1px solid var(--hairline); overflow-y: auto; }
.reason { display: grid; grid-template-columns: minmax(40px, auto) minmax(0, 1fr); gap: 12px; align-items: baseline; padding: 7px 6px; margin: 0 -6px; border-bottom: 1px solid var(--hairline); }
.reason b { font-size: 17px; text-align: right; }
.reason:hover span { text-decoration: underline; text-underline-offset: 3px; }
.reason.shown { background: var(--tint); }
.remark { display: block; font-size: 13px; }
.differences { padding-top: 14px; }
.difference { overflow-wrap: anywhere; }
.records { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
.shown { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: baseline; padding: 8px 20px 4px; }
.reason.shown { display: grid; }
.here { font-weight: 700; border-bottom: 2px solid var(--brass); }
.shown kbd { margin: 0; }
.under-way { display: grid; gap: 12px; max-width: 560px; padding: 40px 20px; }
.trouble-page, .waiting { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; }
.ways { display: flex; gap: 16px; align-items: center; }
@media (max-width: 980px) {
  .comparison { height: auto; grid-template-rows: auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); max-height: none; }
  aside { border-left: 0; border-top: 1px solid var(--hairline); padding-top: 10px; }
}
</style>
