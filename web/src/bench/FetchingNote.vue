<script setup lang="ts">
/** How far the columns are that the gate looks at: by itself, so that nothing else of the bench is drawn anew for each step of it. */
import type { Ref } from 'vue'
import { count } from '../shared/format'

/** @property coming its records, of `all`, that have come */
defineProps<{ coming: { fetched: Ref<number | null> }; all: number }>()
</script>

<template>
  <div class="fetching" role="status">
    <p class="second">Fetching what it looks at: <span class="figure">{{ count(coming.fetched.value ?? 0) }}</span> of <span class="figure">{{ count(all) }}</span> records</p>
    <v-progress-linear :model-value="(100 * (coming.fetched.value ?? 0)) / Math.max(1, all)" color="primary" height="3" aria-label="Records fetched" />
  </div>
</template>

<style scoped>
.fetching { display: grid; gap: 8px; width: 320px; padding: 8px 12px; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; }
</style>
