<script setup lang="ts">
/** The gate's name, the state of its draft, and the deliberate acts: set a version, keep a run. */
import type { Table } from '@dime-gate/contract/table'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { messageOf } from '../shared/api'
import { counted } from '../shared/format'
import { useNotices } from '../shared/notices'
import { useAsOf } from '../shared/useAsOf'
import { useCommands } from '../finder/commands'
import { groupWords } from '../shared/words'
import { useDraft } from './gate-draft'
import { vStands } from '../shared/v-stands'

defineProps<{ table: Table; name: string }>()
const emit = defineEmits<{ rename: [name: string]; showAs: [] }>()

const router = useRouter()
const notices = useNotices()
const bench = useDraft()
const isBusy = ref(false)
const { own } = useAsOf()

const latest = computed(() => bench.stored?.latestVersion ?? 0)
const draftWords = computed(() => {
  if (bench.keeping.state === 'keeping') return 'keeping the draft …'
  if (latest.value === 0) return 'draft, no version set yet'
  return bench.isNew ? `draft after version ${latest.value}` : `same as version ${latest.value}`
})

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name !== '') emit('rename', name)
}

function setVersion(): Promise<void> {
  return busily(async () => {
    if (await bench.setVersion()) notices.say(`Version ${latest.value} is set. The draft goes on from it.`)
  })
}

function keepRun(): Promise<void> {
  return busily(async () => {
    const run = await bench.keepRun(own.value)
    if (run) await router.push(`/runs/${run.id}`)
  })
}

async function busily(work: () => Promise<void>): Promise<void> {
  if (isBusy.value) return
  isBusy.value = true
  try {
    await work()
  } catch (error) {
    notices.warn(messageOf(error))
  } finally {
    isBusy.value = false
  }
}

useCommands([
  { words: 'Undo', key: 'u', act: bench.undo, isOff: () => bench.past.length === 0 },
  { words: 'Redo', key: 'U', act: bench.redo, isOff: () => bench.future.length === 0 },
  { words: 'Set the draft as a version', key: 's', act: setVersion, isOff: () => !bench.isNew },
  { words: 'Show as: words, SQL, a formula, FEEL, DMN, JSON', key: 'a', act: () => emit('showAs') },
  { words: 'Keep a run', key: 'k', act: keepRun, isOff: () => latest.value === 0 },
])
</script>

<template>
  <header>
    <h1 class="visually-hidden">{{ name }}</h1>
    <input class="title" v-stands="name" aria-label="Name of the gate" maxlength="120" :size="Math.max(6, name.length)" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()">
    <slot name="form" />
    <span class="second on">on <router-link :to="`/tables/${table.id}`"><b>{{ table.name }}</b></router-link>, {{ counted(table.records, 'record') }}{{ groupWords(table) }}</span>
    <button class="plain-button as" type="button" title="In plain words, or in another language, ready to be taken elsewhere" @click="emit('showAs')">Show as<kbd>A</kbd></button>
    <span class="space" />
    <span class="second state" data-state="draft" role="status">{{ draftWords }}</span>
    <v-btn :disabled="bench.past.length === 0" @click="bench.undo">Undo<kbd>U</kbd></v-btn>
    <v-btn :disabled="bench.future.length === 0" aria-label="Redo" @click="bench.redo">Redo<kbd>⇧U</kbd></v-btn>
    <v-btn v-if="bench.isNew" class="primary" :disabled="isBusy" @click="setVersion">Set version {{ latest + 1 }}<kbd>S</kbd></v-btn>
    <v-btn v-if="latest > 0" :class="{ primary: !bench.isNew }" :disabled="isBusy" @click="keepRun">Keep a run<template v-if="bench.isNew"> of v{{ latest }}</template><kbd>K</kbd></v-btn>
  </header>
</template>

<style scoped>
header { display: flex; align-items: center; gap: 10px; padding: 10px 20px 6px; min-width: 0; }
.title { font: inherit; font-size: 21px; font-weight: 700; letter-spacing: -0.01em; color: var(--ink); background: none; border: 1px solid transparent; border-radius: 3px; padding: 0 2px; margin-left: -3px; flex: none; min-width: 90px; max-width: min(340px, 60vw); text-overflow: ellipsis; field-sizing: content; }
.title:hover { border-color: var(--hairline); }
.on { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; min-width: 60px; }
.on a { color: var(--ink); text-decoration: none; }
.as { white-space: nowrap; color: var(--pine); font-weight: 600; font-size: 14px; min-height: 28px; }
.state { white-space: nowrap; }
.space { flex: 1; }
@media (max-width: 980px) {
  header { flex-wrap: wrap; }
}
</style>
