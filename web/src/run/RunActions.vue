<script setup lang="ts">
/** What can be done with a run: made again, compared, reported, taken out. */
import type { Run, RunSummary } from '@dime-gate/contract/run'
import { ref } from 'vue'
import { useCommands } from '../finder/commands'
import { date, moment } from '../shared/format'
import TakeOut from '../shared/TakeOut.vue'
import { runTitle } from '../shared/words'
import { useTakingOut } from '../shared/useTakingOut'
import type { RunChoice } from './run-address'

/** @property others runs of its table */
defineProps<{ run: Run & { counts: NonNullable<Run['counts']> }; choice: RunChoice; others: readonly RunSummary[] }>()
const emit = defineEmits<{ again: [as: 'same' | 'now'] }>()

const { addressOf, asked: fileAsked } = useTakingOut()
const download = ref<HTMLAnchorElement | null>(null)
useCommands([
  { words: 'Run it again, now', key: 'n', act: () => emit('again', 'now') },
  { words: 'Take out the labelled table', key: 'e', act: () => download.value?.click() },
])
</script>

<template>
  <v-menu location="bottom end">
    <template #activator="{ props: menu }"><v-btn v-bind="menu">Again</v-btn></template>
    <v-list density="compact" class="again">
      <v-list-item title="Again, now" subtitle="the last version, on the records, the binding and the date as they are now" @click="emit('again', 'now')" />
      <v-list-item title="The same again" subtitle="all of it as it was; it has to come to the same" @click="emit('again', 'same')" />
    </v-list>
  </v-menu>
  <v-menu location="bottom end">
    <template #activator="{ props: menu }"><v-btn v-bind="menu">Compare with</v-btn></template>
    <v-list density="compact" max-height="420">
      <v-list-item title="The draft" subtitle="as it is now, on the records as they are now" :to="`/runs/${run.id}/against/draft`" />
      <v-list-item v-for="other in others" :key="other.id" :title="runTitle(other)" :subtitle="`version ${other.gateVersion}, as of ${date(other.asOf)}, kept ${moment(other.keptAt)}`" :to="other.id < run.id ? `/runs/${other.id}/against/${run.id}` : `/runs/${run.id}/against/${other.id}`" />
    </v-list>
  </v-menu>
  <router-link class="v-btn v-btn--variant-outlined bench-link" :to="{ path: `/runs/${run.id}/report`, query: choice.by === null ? {} : { by: choice.by, ...(choice.part === 'whole' ? {} : { part: choice.part }) } }">Report</router-link>
  <router-link class="v-btn v-btn--variant-outlined bench-link" :to="`/runs/${run.id}/slips`">Slips</router-link>
  <router-link class="v-btn v-btn--variant-outlined bench-link" :to="{ path: `/gates/${run.gateId}`, query: { on: run.tableId } }">To the bench</router-link>
  <a ref="download" class="v-btn primary download" :href="addressOf(`/runs/${run.id}/labelled.csv`)" download @click="fileAsked">Take the labelled table<kbd>E</kbd></a>
  <TakeOut :path="`/runs/${run.id}/labelled`" :records="run.counts.records" label="Other formats" />
</template>

<style scoped>
.download, .bench-link { display: inline-flex; align-items: center; flex: none; border: 1px solid var(--hairline); border-radius: 4px; text-decoration: none; }
.download { color: var(--on-pine) !important; }
.bench-link { color: var(--ink) !important; }
</style>
