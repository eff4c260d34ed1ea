<script setup lang="ts">
/** Files on their way in: each looked at in whole, with all that was detected and can be changed, before anything is stored. */
import { changeAnswerSchema } from '@dime-gate/contract/change'
import { deskSchema } from '@dime-gate/contract/desk'
import type { Table } from '@dime-gate/contract/table'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, askWith, messageOf } from '../shared/api'
import { useReturn } from '../shared/connection'
import { count, counted, date } from '../shared/format'
import { freeName } from '../shared/free-name'
import { useNotices } from '../shared/notices'
import { useTitle } from '../shared/useTitle'
import { useWorkspace } from '../shared/workspace'
import FileFields from './FileFields.vue'
import { useIncoming } from './incoming'
import FilePreview from './FilePreview.vue'
import MergePlanView from './MergePlanView.vue'
import FileQuestions from './FileQuestions.vue'
import { problemOf } from './file-problem'
import { questionsOf } from './questions'

const router = useRouter()
const notices = useNotices()
const workspace = useWorkspace()
const incoming = useIncoming()
useTitle(() => 'Bring in')

const shownId = ref(incoming.all[0]?.id ?? null)
const shown = computed(() => incoming.all.find(({ id }) => id === shownId.value) ?? incoming.all[0] ?? null)
const way = computed(() => shown.value?.way ?? null)
const look = computed(() => way.value?.look.value ?? null)
const stage = computed(() => way.value?.stage.value)
const progress = computed(() => way.value?.progress.value)
const questions = computed(() => (look.value && way.value ? questionsOf(look.value, way.value.choice.value) : []))
const problem = computed(() => (look.value ? problemOf(look.value) : null))
const trouble = computed(() => way.value?.trouble.value ?? '')

/** Null until the desk was read: a name that is offered must not change under the hand that types another. */
const tables = shallowRef<{ id: number; name: string }[] | null>(null)
const taken = computed(() => (tables.value ?? []).map((table) => table.name))
const names = shallowRef<Record<number, string>>({})
const name = computed({
  get: () => (shown.value && tables.value ? names.value[shown.value.id] ?? nameOf(shown.value.way.file.name) : ''),
  set: (text) => shown.value && (names.value = { ...names.value, [shown.value.id]: text }),
})

onMounted(async () => {
  tables.value = await ask(deskSchema, '/desk').then((desk) => desk.tables, () => [])
})
// What could not be looked at while the server was away is looked at when it is back.
useReturn(() => incoming.all.forEach(({ way: one }) => one.trouble.value && one.stage.value === 'ready' && void one.lookAgain()))
watch(() => incoming.all.length, (files) => files === 0 && void router.replace('/tables'))

function nameOf(file: string): string {
  return freeName(file.replace(/\.[^.]+$/, '').replaceAll(/[_-]+/g, ' ').trim().slice(0, 110) || 'Table', taken.value)
}

const target = computed(() => way.value?.target.value ?? null)
const plan = computed(() => way.value?.plan.value ?? null)
const goal = computed(() => tables.value?.find(({ id }) => id === target.value?.tableId)?.name ?? 'the table')
const GOALS = computed(() => [{ title: 'a new table', value: 0 }, ...(tables.value ?? []).map((table) => ({ title: `part of “${table.name}”`, value: table.id }))])
const isSet = computed(() => (target.value ? plan.value !== null && plan.value.ambiguous === 0 : name.value.trim() !== ''))
const mayBringIn = computed(() => stage.value === 'ready' && look.value !== null && problem.value === null && questions.value.length === 0 && isSet.value)

const told = computed(() => {
  if (!progress.value) return ''
  const { records, share, isWaiting } = progress.value
  const much = share === null ? '' : ` ${Math.floor(100 * share)} %`
  if (isWaiting) return 'Waiting for another file …'
  if (stage.value === 'sending') return `Sending${much}`
  if (stage.value === 'comparing') return `Comparing with “${goal.value}” …`
  if (stage.value === 'looking') return records === 0 ? 'Looking at the file …' : `Looking at all of it:${much} ${counted(records, 'record')}`
  return `Storing:${much} ${counted(records, 'record')}`
})
const isBusy = computed(() => stage.value === 'sending' || stage.value === 'looking' || stage.value === 'comparing' || stage.value === 'bringing in')

async function bringIn(): Promise<void> {
  const { id, way: one } = shown.value!
  const table = await one.bringIn(name.value)
  if (!table) return
  if (tables.value && !tables.value.some((known) => known.id === table.id)) tables.value = [...tables.value, table]
  const open = () => router.push(`/tables/${table.id}`)
  if (incoming.all.length > 1) notices.say(`“${table.name}” is in, with ${counted(table.records, 'record')}.`, { label: 'Open it', run: () => void open() })
  else {
    const isNew = !target.value
    await open()
    if (isNew) tellDate()
    else notices.say(`“${one.file.name}” is in.`, { label: 'Take it back', run: () => void takeBack(table) })
  }
  incoming.remove(id)
}

/** The change that put the file in is the table's last one. */
async function takeBack({ id, version }: Table): Promise<void> {
  await askWith(changeAnswerSchema, 'POST', `/tables/${id}/changes/${version}/undoing`, {}).catch((error) => notices.warn(messageOf(error)))
}

/** The date that counts may be that of other data. */
function tellDate(): void {
  const today = new Date().toLocaleDateString('sv')
  const { asOf } = workspace
  if (asOf === null || asOf === today) return
  notices.say(`Here ${date(asOf)} counts as today, for this table too.`, { label: 'Make it today', run: () => void workspace.change(today).catch((error) => notices.warn(messageOf(error))) })
}

function leave(): void {
  if (shown.value) incoming.remove(shown.value.id)
}
</script>

<template>
  <section v-if="shown && way" class="incoming">
    <header>
      <div class="files" role="tablist" aria-label="Files">
        <button
          v-for="one in incoming.all"
          :key="one.id"
          type="button"
          role="tab"
          :aria-selected="one.id === shown.id"
          class="plain-button file"
          :class="{ here: one.id === shown.id, alone: incoming.all.length === 1 }"
          @click="shownId = one.id"
        >
          {{ one.way.file.name }}
        </button>
      </div>
      <span class="space" />
      <v-select
        class="goal"
        label="It becomes"
        :items="GOALS"
        :model-value="target?.tableId ?? 0"
        @update:model-value="way.aimAt($event === 0 ? null : { tableId: $event, isReplacing: target?.isReplacing ?? false })"
      />
      <v-select
        v-if="target"
        class="manner"
        label="What is there"
        :items="[{ title: 'stays, and is added to', value: false }, { title: 'is replaced', value: true }]"
        :model-value="target.isReplacing"
        @update:model-value="way.aimAt({ ...target, isReplacing: $event })"
      />
      <v-text-field v-else v-model="name" class="table-name" :disabled="!tables" label="Name of the table" maxlength="120" />
      <v-btn
        class="primary"
        :disabled="!mayBringIn"
        @click="bringIn"
        >{{ !target ? 'Bring it in' : target.isReplacing ? 'Replace' : 'Add' }}</v-btn
      >
      <v-btn v-if="stage === 'bringing in'" @click="way.breakOff()">Stop</v-btn>
      <v-btn v-else @click="leave">{{ incoming.all.length > 1 ? 'Leave this one' : 'Cancel' }}</v-btn>
    </header>

    <div class="state">
      <template v-if="isBusy">
        <v-progress-linear
          :model-value="100 * (progress?.share ?? 0)"
          :indeterminate="progress?.share === null || progress?.isWaiting"
          color="brass"
          height="6"
          aria-label="How far it is"
        />
        <span class="second" role="status">{{ told }}</span>
      </template>
      <p v-else-if="look?.statistics" class="second said" role="status">
        <b>{{ counted(look.statistics.records, 'record') }}</b>, {{ counted(look.settings.columns.length, 'column') }}, read to the end.
        <template v-if="questions.length > 0"
          >{{ questions.length === 1 ? 'One thing is' : `${count(questions.length)} things are` }} for you to decide before it comes
          in.</template
        ><template v-else>All below was detected and can be changed; what does not fit its type is kept as written.</template>
      </p>
    </div>

    <FileFields v-if="look || trouble" :look="look" :choice="way.choice.value" @choose="way.choose($event)" />
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }} <v-btn class="plain" @click="way.lookAgain()">Try again</v-btn></p>
    <p v-else-if="problem" class="notice problem" role="alert">{{ problem }}</p>
    <FileQuestions
      v-if="look && questions.length > 0"
      :look="look"
      :questions="questions"
      @choose="way.choose($event)"
      @edit="(column, plan) => way!.edit(column, plan)"
    />
    <MergePlanView v-if="target && plan" :plan="plan" :table-name="goal" :is-replacing="target.isReplacing" />
    <FilePreview v-if="look" :key="shown.id" :look="look" @edit="(column, plan) => way!.edit(column, plan)" />
    <p v-if="look && look.statistics && look.statistics.records > look.records.length" class="second more">
      The first {{ count(look.records.length) }} of {{ counted(look.statistics.records, 'record') }}.
    </p>
  </section>
  <section v-else class="nothing">
    <h1>No file is on its way</h1>
    <p class="second">Drop one anywhere, or choose one on the desk.</p>
    <router-link to="/">Go to the desk</router-link>
  </section>
</template>

<style scoped>
.incoming { display: grid; grid-template-columns: minmax(0, 1fr); align-content: start; gap: 10px; height: calc(100dvh - 48px); padding: 12px 20px; grid-auto-rows: auto; overflow: hidden auto; }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 12px; }
.files { display: flex; gap: 4px; overflow-x: auto; max-width: 100%; }
.file { padding: 4px 10px; border-bottom: 2px solid transparent; color: var(--second); white-space: nowrap; max-width: 320px; overflow: hidden; text-overflow: ellipsis; }
.file.here { color: var(--ink); font-weight: 700; border-bottom-color: var(--pine); }
.file.alone { font-size: 20px; padding-left: 0; border-bottom: 0; cursor: default; max-width: 560px; }
.space { flex: 1; }
.table-name { flex: 0 1 240px; min-width: 180px; }
.goal { flex: 0 1 230px; min-width: 180px; }
.manner { flex: 0 1 220px; min-width: 180px; }
.state { display: flex; align-items: center; gap: 12px; min-height: 22px; }
.state .v-progress-linear { max-width: 320px; }
.said b { color: var(--ink); }
.more { font-size: 13px; }
.nothing { display: grid; gap: 10px; justify-items: start; padding: 40px 20px; }
@media (max-width: 640px) {
  .incoming { height: auto; padding: 10px 12px; }
  .table-name { flex-basis: 100%; }
}
</style>
