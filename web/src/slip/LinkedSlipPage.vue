<script setup lang="ts">
/** What a link leads to: one slip, alone. */
import { type LinkedSlip, linkedSlipSchema } from '@dime-gate/contract/slip'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, messageOf } from '../shared/api'
import { date } from '../shared/format'
import SlipSheet from './SlipSheet.vue'
import { slipTeller } from './slip-words'

const props = defineProps<{ token: string }>()
const found = shallowRef<LinkedSlip | null>(null)
const trouble = ref('')
const words = computed(() => found.value && slipTeller(found.value.head, [found.value.slip])(0))
const print = () => window.print()

async function load(): Promise<void> {
  trouble.value = ''
  try {
    found.value = await ask(linkedSlipSchema, `/slips/${encodeURIComponent(props.token)}`)
    document.title = found.value.head.gate.name
  } catch (error) {
    trouble.value = messageOf(error)
  }
}
onMounted(load)
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
