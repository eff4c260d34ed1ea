<script setup lang="ts">
/** Takes something out as a file, in a format to be chosen. */
import { mostRecords, OUT_FORMATS } from '@dime-gate/interchange/table/out-formats'
import { computed } from 'vue'
import { useTakingOut } from './useTakingOut'

/** @property path of the file, without its ending */
const props = defineProps<{ path: string; records: number; label: string }>()

const WORDS = { csv: 'CSV, as written', xlsx: 'XLSX', ods: 'ODS', json: 'JSON', jsonl: 'JSON Lines', arrow: 'Arrow' }
const formats = computed(() => OUT_FORMATS.map((format) => ({ format, words: WORDS[format], isPossible: props.records <= mostRecords(format) })))
const { addressOf, asked } = useTakingOut()
</script>

<template>
  <v-menu location="bottom end">
    <template #activator="{ props: menu }"
      ><v-btn v-bind="menu">{{ label }}</v-btn></template
    >
    <v-list density="compact">
      <template v-for="{ format, words, isPossible } in formats" :key="format">
        <v-list-item v-if="isPossible" :href="addressOf(`${path}.${format}`)" download :title="words" @click="asked" />
        <v-list-item v-else disabled :title="`${words}: a sheet holds no more than 1,048,575 records`" />
      </template>
    </v-list>
  </v-menu>
</template>
