<script setup lang="ts">
/** For how many records a part of a condition holds: a way to them, where there is a list that could show them. */
import { count } from '../shared/format'
import { useConditionBench } from './condition-bench'

/** @property records undefined before they are counted @property of what the part is called */
defineProps<{ records: number | undefined; isShown: boolean; of: 'test' | 'group' }>()
const emit = defineEmits<{ show: [] }>()
const bench = useConditionBench()
</script>

<template>
  <button v-if="bench.showsRecords" class="plain-button holds second" :class="{ here: isShown }" type="button" :aria-label="`The records that this ${of} holds for: ${records ?? ''}`" @click="emit('show')">holds for <b class="figure">{{ records === undefined ? '…' : count(records) }}</b></button>
  <span v-else class="holds second">holds for <b class="figure">{{ records === undefined ? '…' : count(records) }}</b></span>
</template>

<style scoped>
.holds { margin-left: auto; font-size: 12.5px; min-height: 24px; }
.holds b { color: var(--ink); }
.holds.here { border-bottom: 2px solid var(--brass); }
</style>
