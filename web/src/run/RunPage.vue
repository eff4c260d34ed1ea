<script setup lang="ts">
/** A run: what one version of a gate gave each record, kept as it was. */
import { API } from '@dime-gate/contract/api'
import { runSchema, type Run } from '@dime-gate/contract/run'
import { scaleInput } from '@dime-gate/core/gate/scale-gate'
import type { Tray } from '@dime-gate/core/run/scale-result'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import CutLine from '../bench/CutLine.vue'
import RecordList from '../records/RecordList.vue'
import type { Order } from '../records/in-order'
import type { OpenedColumn } from '../records/records-worker'
import { useRecordsWorker } from '../records/useRecordsWorker'
import { ask, askWith, messageOf } from '../shared/api'
import { count, counted, date, moment } from '../shared/format'
import { useShortcuts } from '../shared/useShortcuts'
import { useTitle } from '../shared/useTitle'
import { trayWords, withUnit } from '../shared/words'
import TrayTabs from '../records/TrayTabs.vue'
import CoinTrays from './CoinTrays.vue'

const props = defineProps<{ id: number }>()
const latest = shallowRef<Run | null>(null)
/** The run once it is done; before, there is nothing to see of it but how far it is. */
const run = computed(() => (latest.value?.counts ? { ...latest.value, counts: latest.value.counts } : null))
const opened = shallowRef<OpenedColumn | null>(null)
const trouble = ref('')
const tray = shallowRef<Tray>({ kind: 'exceptions' })
const order = ref<Order>('table')
const total = ref(0)
const tick = ref(0)
const worker = useRecordsWorker()
const router = useRouter()
const download = ref<HTMLAnchorElement | null>(null)

useTitle(() => latest.value && `${latest.value.gateName}, run ${latest.value.number}`)
useShortcuts({ e: () => download.value?.click(), Escape: () => (tray.value = { kind: 'all' }) })

onMounted(async () => {
  try {
    const found = await whenEnded()
    if (found?.state !== 'done') return
    opened.value = await worker.openRun(`${API}/runs/${props.id}/records`, found.gate)
    exceptions.value = await worker.list({ kind: 'exceptions' }, 'table')
    await list()
  } catch (error) {
    trouble.value = messageOf(error)
  }
})

const PAUSE = 300
let isLeft = false
onBeforeUnmount(() => (isLeft = true))

/** Looks again and again as long as the run is under way. @returns null where nobody is there to see it any more */
async function whenEnded(): Promise<Run | null> {
  while (!isLeft) {
    latest.value = await ask(runSchema, `/runs/${props.id}`)
    if (latest.value.state !== 'under way') return latest.value
    await new Promise((resolve) => setTimeout(resolve, PAUSE))
  }
  return null
}

async function cancel(): Promise<void> {
  const { gateId, tableId } = latest.value!
  isLeft = true
  try {
    await askWith(z.object({}), 'DELETE', `/runs/${props.id}`, {})
    await router.push({ path: `/gates/${gateId}`, query: { on: tableId } })
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

const exceptions = ref(0)

async function list(): Promise<void> {
  total.value = await worker.list({ ...tray.value }, order.value)
  tick.value++
}
watch([tray, order], () => opened.value && void list())

const column = computed(() => run.value?.columns.find(({ id }) => id === run.value!.binding[run.value!.gate.on]?.column) ?? null)
const onCuts = computed(() => run.value?.counts.onCut.reduce((sum, one) => sum + one, 0) ?? 0)

/** Exceptions by kind; a record may be under more than one. */
const kinds = computed(() => {
  if (!run.value) return []
  const { counts, gate } = run.value
  const name = gate.on
  return [
    { tray: { kind: 'held' } as Tray, records: counts.held, remark: `${name} is ${counts.unreadable > 0 ? 'blank or unreadable' : 'blank'}, and a value would decide` },
    { tray: { kind: 'unreadable' } as Tray, records: counts.unreadable, remark: `${name} holds text that is no number` },
    { tray: { kind: 'unplaced' } as Tray, records: counts.unplaced, remark: `${name} lies beyond the floor or ceiling` },
    { tray: { kind: 'on-a-cut' } as Tray, records: onCuts.value, remark: `${name} equals a cut` },
  ]
})

const tabs = computed<{ tray: Tray; records: number }[]>(() => {
  if (!run.value) return []
  const tabsShown: { tray: Tray; records: number }[] = [{ tray: { kind: 'exceptions' }, records: exceptions.value }, { tray: { kind: 'all' }, records: run.value.counts.records }]
  if (!['exceptions', 'all'].includes(tray.value.kind)) tabsShown.unshift({ tray: tray.value, records: total.value })
  return tabsShown
})

function show(next: Tray): void {
  tray.value = JSON.stringify(next) === JSON.stringify(tray.value) ? { kind: 'all' } : next
}
</script>

<template>
  <section v-if="trouble" class="trouble-page"><p class="notice problem" role="alert">{{ trouble }}</p><router-link to="/">Go to the desk</router-link></section>
  <section v-else-if="run" class="run">
    <header>
      <h1>{{ run.gateName }}, run {{ run.number }}</h1>
      <span class="second about">version {{ run.gateVersion }} on <router-link :to="`/tables/${run.tableId}`"><b>{{ run.tableName }}</b></router-link> (version {{ run.tableVersion }})<template v-if="column && column.name !== run.gate.on">, where <b>{{ column.name }}</b> stands for <b>{{ run.gate.on }}</b></template>, as of <b>{{ date(run.asOf) }}</b>, kept {{ moment(run.keptAt) }}</span>
      <span class="space" />
      <router-link class="v-btn v-btn--variant-outlined bench-link" :to="{ path: `/gates/${run.gateId}`, query: { on: run.tableId } }">To the bench</router-link>
      <a ref="download" class="v-btn primary download" :href="`${API}/runs/${run.id}/labelled.csv`" download>Take the labelled table<kbd>E</kbd></a>
    </header>
    <div class="work">
      <CoinTrays :gate="run.gate" :counts="run.counts" :tray="tray" @show="show" />
      <div class="chart">
        <h2>{{ withUnit(run.gate.on, scaleInput(run.gate).unit) }}, as it was cut</h2>
        <CutLine v-if="opened" fixed :gate="run.gate" :counts="run.counts" :spread="opened.histogram" :places="opened.places" :selected="null" />
      </div>
      <aside class="exceptions" aria-label="Exceptions">
        <h2>Exceptions <span class="figure">{{ count(exceptions) }}</span></h2>
        <button v-for="{ tray: one, records, remark } in kinds" :key="one.kind" class="plain-button kind" :class="{ shown: tray.kind === one.kind }" type="button" :disabled="records === 0" :aria-pressed="tray.kind === one.kind" :data-tray="one.kind" @click="show(one)">
          <b>{{ trayWords(one, run.gate) }}</b><b class="figure">{{ count(records) }}</b>
          <span class="second">{{ remark }}</span>
        </button>
      </aside>
    </div>
    <div class="records">
      <TrayTabs :gate="run.gate" :trays="tabs" :chosen="tray" @choose="tray = $event"><kbd>Esc</kbd> shows all {{ counted(run.counts.records, 'record') }}</TrayTabs>
      <RecordList v-if="column" :table-id="run.tableId" :columns="run.columns" :column-id="column.id" :bands="run.bands" :total="total" :rows="worker.window" :tick="tick" :order="order" empty="No record is here." @order="order = $event" />
    </div>
  </section>
  <section v-else-if="latest && latest.state !== 'done'" class="under-way">
    <h1>{{ latest.gateName }}, run {{ latest.number }}</h1>
    <p class="second">version {{ latest.gateVersion }} on <router-link :to="`/tables/${latest.tableId}`"><b>{{ latest.tableName }}</b></router-link>, as of <b>{{ date(latest.asOf) }}</b></p>
    <template v-if="latest.state === 'under way'">
      <p role="status"><b class="figure">{{ count(latest.progress ?? 0) }}</b> of {{ counted(latest.records, 'record') }} decided</p>
      <v-progress-linear :model-value="(100 * (latest.progress ?? 0)) / Math.max(1, latest.records)" color="primary" height="4" aria-label="Records decided" />
      <p><v-btn @click="cancel">Cancel this run</v-btn></p>
    </template>
    <template v-else>
      <p class="notice problem" role="alert">{{ latest.problem }}</p>
      <p><router-link :to="{ path: `/gates/${latest.gateId}`, query: { on: latest.tableId } }">To the bench</router-link></p>
    </template>
  </section>
  <p v-else class="second waiting" role="status">Opening the run …</p>
</template>

<style scoped>
.run { display: grid; grid-template-rows: auto auto minmax(200px, 1fr); height: calc(100dvh - 48px); min-height: 640px; }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; padding: 10px 20px 8px; }
.about a { color: var(--ink); text-decoration: none; }
.about b { color: var(--ink); }
.space { flex: 1; }
.download, .bench-link { display: inline-flex; align-items: center; border: 1px solid var(--hairline); border-radius: 4px; text-decoration: none; }
.download { color: var(--on-pine) !important; }
.bench-link { color: var(--ink) !important; }
.work { display: grid; grid-template-columns: minmax(300px, 1.15fr) minmax(0, 1.25fr) 300px; min-height: 330px; }
.work > * { padding: 8px 18px 12px; min-width: 0; }
.work > * + * { border-left: 1px solid var(--hairline); }
.chart { display: grid; align-content: start; gap: 14px; }
.exceptions { display: grid; align-content: start; }
.kind { display: grid; grid-template-columns: 1fr auto; gap: 0 10px; padding: 7px 6px; margin: 0 -6px; border-bottom: 1px solid var(--hairline); }
.kind .second { grid-column: 1 / -1; font-size: 13px; }
.kind:disabled { cursor: default; color: var(--second); }
.kind.shown { background: var(--tint); }
.kind:not(:disabled):hover b:first-child { text-decoration: underline; }
.records { display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0; border-top: 1px solid var(--hairline); background: var(--sheet); }
.under-way { display: grid; gap: 12px; max-width: 560px; padding: 40px 20px; }
.under-way a { color: var(--ink); }
.trouble-page, .waiting { display: grid; gap: 12px; justify-items: start; padding: 40px 20px; }
@media (max-width: 980px) {
  .run { height: auto; grid-template-rows: auto auto 480px; }
  .work { grid-template-columns: minmax(0, 1fr); }
  .work > * + * { border-left: 0; border-top: 1px solid var(--hairline); }
}
</style>
