<script setup lang="ts">
/** Finding in the records that are listed, and what they have to be, each of which can be taken away again. */
import type { Listing } from '@dime-gate/contract/change'
import type { Column } from '@dime-gate/contract/table'
import { ref, watch } from 'vue'
import { useCommands } from '../finder/commands'
import { filterWords, foundBy, foundText, unfilteredBy } from './listing'

const props = defineProps<{ listing: Listing; columns: Column[] }>()
const emit = defineEmits<{ show: [listing: Listing] }>()

const sought = ref('')
const finder = ref<HTMLInputElement | null>(null)
watch(() => foundText(props.listing), (text) => (sought.value = text), { immediate: true })
useCommands([{ words: 'Find in the records', key: 'f', act: () => finder.value?.focus() }])
</script>

<template>
  <form role="search" @submit.prevent="emit('show', foundBy(listing, sought))"><input ref="finder" v-model="sought" type="search" aria-label="Find in all columns" placeholder="Find in all columns" @search="emit('show', foundBy(listing, sought))"><kbd>F</kbd></form>
  <span v-for="filter in listing.filters" :key="JSON.stringify(filter)" class="pill chip">{{ filterWords(filter, columns) }} <button class="plain-button" type="button" :aria-label="`No longer ${filterWords(filter, columns)}`" @click="emit('show', unfilteredBy(listing, filter))">×</button></span>
</template>

<style scoped>
form { display: flex; align-items: center; gap: 8px; }
form kbd { margin: 0 !important; }
input { width: 240px; height: 30px; padding: 0 10px; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; }
.chip { gap: 8px; border-color: var(--brass); color: var(--ink); }
.chip button { min-width: 20px; min-height: 24px; text-align: center; }
@media (max-width: 640px) { input { width: 180px; } }
</style>
