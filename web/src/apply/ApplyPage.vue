<script setup lang="ts">
/** Gates applied to tables, one or many at once: what stands for what, what is missing, how far it is, and what came. */
import { type Desk, deskSchema } from '@dime-gate/contract/desk'
import { type Run, runSchema, type RunSummary } from '@dime-gate/contract/run'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { z } from 'zod'
import { useCommands } from '../finder/commands'
import TraysBeside from '../run/TraysBeside.vue'
import { ask, askWith, messageOf } from '../shared/api'
import { unlessAway, useReturn } from '../shared/connection'
import { count, counted } from '../shared/format'
import { inFeedingOrder } from '../shared/feeding-order'
import { useNotices } from '../shared/notices'
import { useTitle } from '../shared/useTitle'
import { FORM_WORDS } from '../shared/words'
import { wholeOf } from './plan'
import PlanRow from './PlanRow.vue'
import { isReady, type Plan, planKey, usePlans } from './usePlans'

const route = useRoute()
const router = useRouter()
const notices = useNotices()
const desk = shallowRef<Desk | null>(null)
const trouble = ref('')
const { plans, load, stand, begin } = usePlans()
/** By plan its run, once it is begun, or why it could not be. */
const runs = shallowRef<ReadonlyMap<string, Run | string>>(new Map())
const isBusy = ref(false)
/** As many pairs that do not fit are shown beside those that do. */
const FEW = 6

const idsIn = (name: string) => String(route.query[name] ?? '').split(',').map(Number).filter((id) => Number.isSafeInteger(id) && id > 0)
const gateIds = computed(() => idsIn('gates'))
const tableIds = computed(() => idsIn('tables'))
const choose = (change: Record<string, readonly number[]>) => router.replace({ query: Object.fromEntries(Object.entries({ gates: gateIds.value, tables: tableIds.value, runs: idsIn('runs'), ...change }).filter(([, ids]) => ids.length > 0).map(([name, ids]) => [name, ids.join(',')])) })

useTitle(() => 'Run gates over tables')
useCommands([{ words: 'Run all that is ready', key: 'k', act: () => void runAll(), isOff: () => ready.value.length === 0 || isBusy.value }])
onMounted(look)
useReturn(() => trouble.value && void look())

async function look(): Promise<void> {
  trouble.value = ''
  try {
    desk.value = await ask(deskSchema, '/desk')
    await plan()
    const begun = await Promise.all(idsIn('runs').map((id) => ask(runSchema, `/runs/${id}`).catch(() => null)))
    runs.value = new Map(begun.flatMap((run) => (run ? [[planKey(run.gateId, run.tableId), run]] : [])))
    void follow()
  } catch (error) {
    trouble.value = messageOf(error)
  }
}

async function plan(): Promise<void> {
  if (!desk.value) return
  const { gates, tables } = desk.value
  const pairs = gateIds.value.flatMap((gateId) => tableIds.value.flatMap((tableId) => {
    const gate = gates.find(({ id }) => id === gateId)
    return gate && tables.some(({ id }) => id === tableId) ? [{ gateId, gateName: gate.name, version: gate.latestVersion, tableId }] : []
  }))
  await load(pairs, (gateId, tableId) => gates.some((gate) => gate.id === gateId && gate.tables.some(({ id }) => id === tableId)))
}
watch(() => [gateIds.value, tableIds.value].map(String).join(' '), () => void plan().catch((error: unknown) => notices.warn(messageOf(error))))

const toggled = (ids: readonly number[], id: number) => (ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id])
/** The tables that a gate is bound to come with it where none is chosen yet. */
function toggleGate(id: number): void {
  const bound = desk.value!.gates.find((gate) => gate.id === id)!.tables.map((table) => table.id)
  choose({ gates: toggled(gateIds.value, id), ...(tableIds.value.length === 0 && !gateIds.value.includes(id) ? { tables: bound.slice(0, 1) } : {}) })
}

const ready = computed(() => plans.value.filter((one) => isReady(one) && !(runs.value.get(one.key) instanceof Object)))
const open = computed(() => plans.value.filter((one) => !isReady(one)))
const isRestShown = ref(false)
/** Of many pairs those that fit are what it is about. */
const shown = computed(() => {
  const fitting = plans.value.filter(({ fits }) => fits)
  return isRestShown.value || fitting.length === 0 || plans.value.length - fitting.length <= FEW ? plans.value : fitting
})

/** Each gate after those that feed it; what could not be begun is told beside it, and the others go on. */
async function runAll(): Promise<void> {
  if (isBusy.value) return
  isBusy.value = true
  const feeding = new Map(plans.value.map(({ gateId, gates }) => [gateId, gates.slice(0, -1).map(({ id }) => id)] as const))
  const order = inFeedingOrder(gateIds.value, (id) => feeding.get(id) ?? [])
  const asked = ready.value.toSorted((one, other) => order.indexOf(one.gateId) - order.indexOf(other.gateId))
  waiting.value = asked
  for (const [at, one] of asked.entries()) {
    const came = await begin(one).catch((error: unknown) => messageOf(error))
    waiting.value = asked.slice(at + 1)
    runs.value = new Map([...runs.value, [one.key, came]])
    await choose({ runs: [...runs.value.values()].flatMap((run) => (run instanceof Object ? [run.id] : [])) })
  }
  isBusy.value = false
  void follow()
}

let isLeft = false
onBeforeUnmount(() => (isLeft = true))
const PAUSE = 300
/** Those that are to be begun. */
const waiting = shallowRef<Plan[]>([])
const whole = computed(() => wholeOf([...[...runs.value.values()].filter((run): run is Run => run instanceof Object), ...waiting.value.map(({ table: { records } }) => ({ state: 'under way' as const, progress: 0, records }))]))
const underWay = computed(() => [...runs.value].filter((entry): entry is [string, Run] => entry[1] instanceof Object && entry[1].state === 'under way'))
async function follow(): Promise<void> {
  while (!isLeft && underWay.value.length > 0) {
    await new Promise((resolve) => setTimeout(resolve, PAUSE))
    for (const [key, { id }] of underWay.value) {
      const now = await ask(runSchema, `/runs/${id}`).catch(() => null)
      // One that is not there any more was cancelled.
      if (now) runs.value = new Map([...runs.value, [key, now]])
      if (now?.state === 'under way') break
    }
  }
}

async function cancel(): Promise<void> {
  for (const [key, { id }] of underWay.value.toReversed()) {
    await askWith(z.object({}), 'DELETE', `/runs/${id}`, {}).catch((error: unknown) => notices.warn(messageOf(error)))
    runs.value = new Map([...runs.value].filter(([one]) => one !== key))
  }
  await choose({ runs: [...runs.value.values()].flatMap((run) => (run instanceof Object ? [run.id] : [])) })
}

type DoneRun = RunSummary & { counts: NonNullable<RunSummary['counts']> }
const done = computed(() => gateIds.value.flatMap((gateId) => {
  const own = tableIds.value.flatMap((tableId): DoneRun[] => {
    const run = runs.value.get(planKey(gateId, tableId))
    return run instanceof Object && run.counts ? [{ ...run, counts: run.counts }] : []
  })
  return own.length > 0 ? [{ name: own[0]!.gateName, runs: own }] : []
}))

const runWords = computed(() => {
  const [some, all] = [ready.value.length, plans.value.length]
  if (some === 0) return underWay.value.length > 0 || done.value.length > 0 ? 'All that were ready have run' : 'None is ready'
  if (some === all) return all === 1 ? 'Run it' : `Run all ${count(all)}`
  return some === 1 ? 'Run the one that is ready' : `Run the ${count(some)} that are ready`
})
function stateOf(one: Plan): { words: string; isTrouble: boolean } {
  const run = runs.value.get(one.key)
  if (typeof run === 'string') return { words: run, isTrouble: true }
  if (run) {
    if (run.state === 'failed') return { words: run.problem ?? 'failed', isTrouble: true }
    if (run.state === 'done') return { words: `run ${run.number} is done`, isTrouble: false }
    return { words: run.isWaiting || run.progress === null ? 'waits for the ones before it' : `${count(run.progress)} of ${counted(run.records, 'record')} decided`, isTrouble: false }
  }
  if (one.trouble) return { words: one.trouble, isTrouble: true }
  return isReady(one) ? { words: 'ready', isTrouble: false } : { words: 'something is missing', isTrouble: true }
}
</script>

<template>
  <section class="apply">
    <h1>Run gates over tables</h1>
    <p v-if="trouble" class="notice problem" role="alert">{{ unlessAway(trouble) }} <v-btn class="plain" @click="look">Try again</v-btn></p>
    <template v-else-if="desk">
      <div class="choices">
        <fieldset>
          <legend>Gates <span class="figure">{{ gateIds.length }}</span></legend>
          <label v-for="gate in desk.gates" :key="gate.id"><input type="checkbox" :checked="gateIds.includes(gate.id)" :data-gate="gate.name" @change="toggleGate(gate.id)"> {{ gate.name }} <span class="second">{{ FORM_WORDS[gate.form] }}{{ gate.latestVersion === 0 ? ', no version set' : '' }}</span></label>
        </fieldset>
        <fieldset>
          <legend>Tables <span class="figure">{{ tableIds.length }}</span></legend>
          <label v-for="table in desk.tables" :key="table.id"><input type="checkbox" :checked="tableIds.includes(table.id)" :data-table="table.name" @change="choose({ tables: toggled(tableIds, table.id) })"> {{ table.name }} <span class="second">{{ counted(table.records, 'record') }}</span></label>
        </fieldset>
      </div>
      <p v-if="plans.length === 0" class="second">Choose at least one gate and one table. What stands for what is told before anything runs.</p>
      <template v-else>
        <div class="head">
          <h2>What stands for what</h2><span class="space" />
          <v-btn v-if="underWay.length > 0" @click="cancel">Cancel</v-btn>
          <v-btn class="primary" :disabled="ready.length === 0 || isBusy" @click="runAll">{{ runWords }}<kbd>K</kbd></v-btn>
        </div>
        <div v-if="isBusy || underWay.length > 0" class="whole" data-whole>
          <v-progress-linear :model-value="(100 * whole.decided) / Math.max(1, whole.records)" height="8" color="var(--brass)" bg-color="var(--hairline)" bg-opacity="1" aria-label="All of it" />
          <span class="second" role="status">{{ count(whole.done) }} of {{ counted(whole.runs, 'run') }} done, {{ count(whole.decided) }} of {{ counted(whole.records, 'record') }}</span>
        </div>
        <p v-if="open.length > 0" class="second">{{ counted(open.length, 'pair is', 'pairs are') }} not ready; the others run without.</p>
        <PlanRow v-for="one in shown" :key="one.key" :plan="one" :state="stateOf(one).words" :is-trouble="stateOf(one).isTrouble" @stand="(input, bound) => stand(one.table.id, input, bound)" />
        <p v-if="shown.length < plans.length"><v-btn class="plain" data-rest @click="isRestShown = true">Show the {{ count(plans.length - shown.length) }} that are not ready</v-btn></p>
      </template>
      <div v-for="gate in done" :key="gate.name" class="done" :data-done="gate.name">
        <h2>{{ gate.name }}</h2>
        <TraysBeside :runs="gate.runs" />
      </div>
    </template>
    <p v-else class="second" role="status">Looking at what there is …</p>
  </section>
</template>

<style scoped>
.apply { display: grid; gap: 14px; align-content: start; grid-template-columns: minmax(0, 1fr); max-width: 1320px; margin: 0 auto; padding: 22px 20px 40px; }
.choices { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 320px), 1fr)); gap: 12px 40px; }
fieldset { display: grid; margin: 0; min-width: 0; align-content: start; border: 0; border-top: 1px solid var(--ink); padding: 6px 0 0; max-height: 240px; overflow-y: auto; }
legend { float: left; width: 100%; padding-bottom: 4px; font-size: 13px; font-weight: 600; color: var(--second); }
label { display: flex; align-items: center; gap: 8px; min-height: 28px; clear: both; cursor: pointer; }
input[type='checkbox'] { width: 17px; height: 17px; accent-color: var(--pine); }
.head { display: flex; align-items: center; gap: 12px; padding-top: 6px; }
.whole { display: grid; grid-template-columns: minmax(0, 420px) auto; gap: 12px; align-items: center; justify-content: start; }
.space { flex: 1; }
.done { display: grid; gap: 6px; padding-top: 12px; }
.done h2 { font-size: 16px; color: var(--ink); }
</style>
