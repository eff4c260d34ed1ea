<script setup lang="ts">
/** The review: every exception of the last runs, gone through one by one; the keyboard alone is enough. */
import { columnsBound } from '@dime-gate/contract/binding'
import { isComputed } from '@dime-gate/contract/table'
import { inputsOf } from '@dime-gate/core/result/exception'
import { computed, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCommands } from '../finder/commands'
import { useRecordInRun } from '../run/useRecordInRun'
import { messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count, counted } from '../shared/format'
import { useReviewMoves } from '../shared/moves'
import { useNotices } from '../shared/notices'
import { useLater } from '../shared/useLater'
import { useTitle } from '../shared/useTitle'
import ExceptionPanel from './ExceptionPanel.vue'
import ExceptionRows from './ExceptionRows.vue'
import { addressOf, queryOf, type ReviewAddress, statesOf } from './review-address'
import ReviewFilters from './ReviewFilters.vue'
import type { ExceptionPlace } from './review-groups'
import SettleBar, { type Doing, type InHand, type Said } from './SettleBar.vue'
import { tallyOf } from './tally'
import { useReview } from './useReview'

const route = useRoute()
const router = useRouter()
const notices = useNotices()
const address = computed(() => addressOf(route.query))
const choose = (change: Partial<ReviewAddress>) => void router.replace({ query: queryOf({ ...address.value, ...change }) })

const hand = useReview(() => ({
  by: address.value.by,
  filter: { runs: runsChosen.value, kinds: address.value.kind ? [address.value.kind] : null, states: statesOf(address.value.shows), people: address.value.person === null ? null : [address.value.person], text: address.value.text || null },
}))
const { review, listedRuns, order, runs, trouble, acts, load, look, renew, act, undo } = hand
const runsChosen = computed(() => {
  const { gate, table } = address.value
  if (gate === null && table === null) return null
  return (review.value?.runs ?? []).filter((run) => (gate === null || run.gateId === gate) && (table === null || run.tableId === table)).map(({ id }) => id)
})
const tally = computed(() => tallyOf(review.value?.counts ?? []))
const looked = computed(() => tally.value.all - tally.value.waiting)

/** As it is listed at first; how many are alike comes behind. */
const detail = shallowRef<InHand | null>(null)
const run = computed(() => (detail.value ? (runs.get(detail.value.runId) ?? null) : null))
const seen = useRecordInRun(() => (detail.value && run.value ? { run: run.value, record: detail.value.record } : null))
const about = computed(() => (detail.value && run.value ? inputsOf(detail.value.reasons, run.value.gate.inputs.map(({ name }) => name)) : []))
/** What can be corrected, what the reasons speak of first; what is computed follows what it comes from. */
const columns = computed(() => {
  // What stands there now has to be known before anybody writes over it.
  if (!run.value || !seen.now.value) return []
  const of = (names: readonly string[]) => names.flatMap((name) => (run.value!.binding[name] ? columnsBound(run.value!.binding[name]) : []))
  const ids = new Set([...of(about.value), ...run.value.seen])
  return [...ids].flatMap((id) => run.value!.columns.filter((column) => column.id === id && !isComputed(column)))
})

/** Whoever any were handed to, and whoever it is that reviews. */
const names = computed(() => [...new Set([...(by.value.trim() ? [by.value.trim()] : []), ...(review.value?.people ?? []).map(({ name }) => name)])])
const doing = ref<Doing>('settled')
const note = ref('')
const isBusy = ref(false)
const bar = useTemplateRef('bar')
const by = ref(localStorage.getItem(NAME) ?? '')
watch(by, (now) => localStorage.setItem(NAME, now.trim()))

useTitle(() => 'Review')
onMounted(load)
useReturn(() => void load())
// What is done here is shown at once; the counts, and what others did, follow.
useReviewMoves(useLater(() => void renew().then(() => at.value && take(at.value)), 300))
watch(() => JSON.stringify([address.value.by, runsChosen.value, address.value.person, address.value.kind, address.value.shows, address.value.text]), () => review.value && void load())

/** The one in hand: the one that the address names, or else the first. */
const at = computed<ExceptionPlace | null>(() => address.value.at ?? (order.value.length > 0 ? order.value.at(0) : null))
watch(at, (now, before) => {
  if (now?.runId === before?.runId && now?.record === before?.record) return
  note.value = ''
  void take(now)
})

async function take(place: ExceptionPlace | null): Promise<void> {
  if (!place) return void (detail.value = null)
  const known = hand.rowOf(place)
  const isSame = () => at.value?.runId === place.runId && at.value.record === place.record
  if (known && runs.has(place.runId)) {
    const before = detail.value
    detail.value = { ...known, alike: before?.runId === place.runId && before.record === place.record ? before.alike : null }
    // Who goes through them one after the other does not wait for what only somebody asks who stays.
    await new Promise((resolve) => setTimeout(resolve, REST))
    if (!isSame()) return
  }
  try {
    const found = await look(place)
    if (isSame()) detail.value = found
  } catch (error) {
    // What is in hand stays there, with what was typed of it.
    if (detail.value?.runId !== place.runId || detail.value.record !== place.record) detail.value = null
    notices.warn(messageOf(error))
  }
}

function move(by: number): void {
  if (order.value.length === 0) return
  const place = at.value ? order.value.placeOf(at.value) : -1
  choose({ at: order.value.at(Math.min(order.value.length - 1, Math.max(0, place < 0 ? 0 : place + by))) })
}

/** On to the next one that waits; what was skipped is come back to once the end is reached. */
function next(): void {
  const { length } = order.value
  const from = at.value ? order.value.placeOf(at.value) : -1
  for (let step = 1; step < length; step++) {
    const place = order.value.at((from + step) % length)
    const state = hand.rowOf(place)?.state
    if (state === undefined || state === 'open' || state === 'lapsed') return choose({ at: place })
  }
  void take(at.value)
}

async function done(said: Said): Promise<void> {
  const { kind, to } = said
  const one = detail.value
  if (!one || isBusy.value) return
  isBusy.value = true
  try {
    const records = await act({ ...said, of: { runId: one.runId, record: one.record, mark: one.mark?.id ?? null }, by: by.value.trim() })
    if (records === null) return await take(at.value)
    note.value = ''
    doing.value = 'settled'
    if (records > 1) notices.say(`${counted(records, 'exception')} ${kind === 'handed' ? (to ? `handed to ${to}` : 'handed to nobody') : kind}.`, { label: 'Take it back', run: () => void back() })
    // What was done is seen before the next one is drawn.
    await new Promise((drawn) => requestAnimationFrame(() => setTimeout(drawn)))
    // What is handed on goes on waiting: it is not what comes next.
    if (kind === 'handed') move(1)
    else next()
    ;(document.activeElement as HTMLElement | null)?.blur()
  } catch (error) {
    notices.warn(messageOf(error))
  } finally {
    isBusy.value = false
  }
}

async function back(): Promise<void> {
  if (!(await undo())) return
  await take(at.value)
}

const isOff = () => detail.value === null
useCommands([
  { words: 'Next exception', key: 'ArrowDown', act: () => move(1), isOff: () => order.value.length === 0 },
  { words: 'Exception before', key: 'ArrowUp', act: () => move(-1), isOff: () => order.value.length === 0 },
  { words: 'Settle it', key: 's', act: () => ((doing.value = 'settled'), bar.value?.focus()), isOff },
  { words: 'Give it another label', key: 'o', act: () => (doing.value = 'overridden'), isOff },
  { words: 'Correct the value', key: 'v', act: () => (doing.value = 'corrected'), isOff: () => isOff() || (seen.now.value !== undefined && columns.value.length === 0) },
  { words: 'Hand it to somebody', key: 'w', act: () => (doing.value = 'handed'), isOff },
  { words: 'With all that are alike, or not', key: 'a', act: () => bar.value?.toggleAlike(), isOff },
  { words: 'Skip to the next that waits', key: 'n', act: next, isOff },
  { words: 'Undo', key: 'u', act: back, isOff: () => acts.value.length === 0 },
])

const isFiltered = computed(() => { const { gate, table, person, kind, shows, text } = address.value; return gate !== null || table !== null || person !== null || kind !== null || shows !== 'waiting' || text !== '' })
</script>

<script lang="ts">
/** Milliseconds until it is counted how many are alike. */
const REST = 150
/** Where the browser keeps who it is that reviews. */
const NAME = 'dime-gate.reviewer'
</script>

<template>
  <section class="review">
    <header>
      <h1>Review</h1>
      <p role="status" class="tally" data-tally><template v-if="review"><b>{{ count(tally.waiting) }} open</b><span class="second"> in {{ counted(tally.runs, 'run') }}<template v-if="tally.byState.settled"> · {{ count(tally.byState.settled) }} settled</template><template v-if="tally.byState.overridden"> · {{ count(tally.byState.overridden) }} overridden</template><template v-if="tally.byState.corrected"> · {{ count(tally.byState.corrected) }} corrected</template><template v-if="tally.byState.lapsed"> · {{ count(tally.byState.lapsed) }} lapsed</template></span></template></p>
      <span v-if="review && review.looking.length > 0" class="pill" role="status">looking through {{ counted(review.looking.length, 'run') }} …</span>
      <span v-if="review && review.failed.length > 0" class="trouble" role="alert">{{ counted(review.failed.length, 'run') }} could not be looked through; it is tried again</span>
      <span class="space" />
      <label class="by second">as <input v-model="by" maxlength="120" placeholder="your name" aria-label="Your name, told with what you do"></label>
      <v-btn :disabled="acts.length === 0" @click="back">Undo<kbd>U</kbd></v-btn>
      <div class="under">
        <span class="progress" role="img" :aria-label="`${count(looked)} of ${count(tally.all)} looked at`"><span class="settled" :style="{ width: `${(100 * (tally.byState.settled + tally.byState.corrected)) / Math.max(1, tally.all)}%` }" /><span class="overridden" :style="{ width: `${(100 * tally.byState.overridden) / Math.max(1, tally.all)}%` }" /></span>
        <span class="second">{{ count(looked) }} of {{ count(tally.all) }} looked at</span>
        <span class="keys second"><kbd>↓</kbd><kbd>↑</kbd> move<kbd>S</kbd> settle<kbd>O</kbd> another label<kbd>V</kbd> correct<kbd>W</kbd> hand on<kbd>A</kbd> all alike<kbd>N</kbd> skip</span>
      </div>
    </header>
    <p v-if="trouble" class="notice problem" role="alert">{{ unlessAway(trouble) }} <v-btn class="plain" @click="load">Try again</v-btn></p>
    <div v-if="review" class="work">
      <div class="side">
        <ReviewFilters :by="address.by" :shows="address.shows" :kind="address.kind" :gate="address.gate" :table="address.table" :text="address.text" :person="address.person" :runs="listedRuns" :people="review.people" @choose="choose" />
        <ExceptionRows v-if="order.length > 0" :review="hand" :by="address.by" :chosen="at" @choose="choose({ at: $event })" />
        <p v-else-if="isFiltered" class="empty second">None of the exceptions is so. <v-btn class="plain" @click="choose({ gate: null, table: null, person: null, kind: null, shows: 'waiting', text: '', at: null })">Show those that wait</v-btn></p>
        <div v-else class="empty"><template v-if="review.runs.length === 0"><b>Nothing to review yet</b><span class="second">Exceptions come with runs: set a version of a gate, and keep a run. What is held, unreadable, unplaced or on a cut then waits here.</span><router-link to="/run-gates">Run gates over tables</router-link></template><template v-else-if="review.looking.length > 0"><span class="second" role="status">Looking through the runs …</span></template><template v-else><b>Nothing waits</b><span class="second">Every exception of the last runs is looked at.</span><v-btn v-if="tally.all > 0" class="plain" @click="choose({ shows: 'all' })">Show all {{ count(tally.all) }}</v-btn></template></div>
      </div>
      <div v-if="detail && run" class="hand">
        <ExceptionPanel :exception="detail" :run="run" :seen="seen" />
        <SettleBar ref="bar" v-model:doing="doing" v-model:note="note" :exception="detail" :run="run" :columns="columns" :cells="seen.now.value ?? null" :about="about" :people="names" :is-busy="isBusy" @done="done" />
      </div>
    </div>
    <p v-else-if="!trouble" class="second waiting" role="status">Opening the review …</p>
  </section>
</template>

<style scoped>
.review { display: grid; grid-template-rows: auto minmax(0, 1fr); height: calc(100dvh - 48px); min-height: 560px; }
.review:has(> .notice) { grid-template-rows: auto auto minmax(0, 1fr); }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; padding: 10px 20px 12px; border-bottom: 1px solid var(--hairline); }
.space { flex: 1; }
.by input { width: 130px; height: 28px; padding: 0 6px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 1px dotted var(--second); }
.under { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 12px; flex-basis: 100%; font-size: 13.5px; }
.progress { display: flex; width: 420px; max-width: 40vw; height: 9px; background: var(--hairline); border-radius: 2px; overflow: hidden; }
.progress .settled { background: #7fa99a; }
.progress .overridden { background: var(--brass); }
.keys { margin-left: auto; }
.keys kbd { margin: 0 3px 0 9px; }
.work { display: grid; grid-template-columns: 452px minmax(0, 1fr); min-height: 0; }
.side { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-right: 1px solid var(--hairline); }
.hand { display: grid; grid-template-rows: minmax(0, 1fr) auto; min-height: 0; padding: 14px 20px 0 26px; }
.empty { display: grid; gap: 8px; align-content: start; justify-items: start; padding: 24px 20px; max-width: 400px; }
.waiting { padding: 40px 20px; }
@media (max-width: 980px) {
  .review { height: auto; }
  .work { grid-template-columns: minmax(0, 1fr); grid-template-rows: auto auto; }
  .side { grid-template-rows: auto 320px; border-right: 0; border-bottom: 1px solid var(--hairline); }
  .keys { display: none; }
  .hand { padding: 14px 20px 20px; }
}
</style>
