<script setup lang="ts">
/** What a link leads to: one slip, alone. */
import { linkedSlipSchema } from '@dime-gate/contract/slip'
import { computed } from 'vue'
import { date } from '../shared/format'
import { useLinked } from '../shared/useLinked'
import SlipSheet from './SlipSheet.vue'
import { slipTeller } from './slip-words'

const props = defineProps<{ token: string }>()
const { found, trouble, load } = useLinked(linkedSlipSchema, `/slips/${encodeURIComponent(props.token)}`, ({ head }) => head.gate.name)
const words = computed(() => found.value && slipTeller(found.value.head, [found.value.slip])(0))
const print = () => window.print()
</script>

<template>
  <section class="alone">
    <template v-if="trouble"><h1>No slip is here</h1><p role="alert">{{ trouble }}</p><v-btn @click="load">Try again</v-btn></template>
    <template v-else-if="found && words">
      <SlipSheet :head="found.head" :words="words">This page can be read until {{ date(found.endsOn) }}.</SlipSheet>
      <v-btn class="print" @click="print">Print</v-btn>
    </template>
    <p v-else class="second" role="status">Opening …</p>
  </section>
</template>

<style scoped>
.alone { display: grid; gap: 14px; justify-items: start; width: min(100%, 190mm); margin: 0 auto; padding: 28px 14px; }
.alone > :deep(.slip) { width: 100%; }
@media print { .alone { display: block; width: auto; padding: 0; } .print { display: none; } }
</style>
<style>
@page { margin: 18mm 16mm; }
</style>
