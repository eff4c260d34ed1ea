<script setup lang="ts">
/** Slips for print alone, each on a page of its own: what the server makes a PDF of. */
import { type SlipsRequest, type Slips, slipsSchema } from '@dime-gate/contract/slip'
import { computed, nextTick, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { askWith, messageOf } from '../shared/api'
import { useTitle } from '../shared/useTitle'
import { printedIn } from './slip-address'
import SlipSheet from './SlipSheet.vue'
import { slipTeller } from './slip-words'

const props = defineProps<{ id: number }>()
const route = useRoute()
const slips = shallowRef<Slips | null>(null)
const trouble = ref('')
const isReady = ref(false)
const words = computed(() => {
  if (!slips.value) return []
  const tell = slipTeller(slips.value.head, slips.value.slips)
  return slips.value.slips.map((_, at) => tell(at))
})
useTitle(() => slips.value && `${slips.value.head.gate.name}, slips`)

onMounted(async () => {
  try {
    const asked: SlipsRequest = printedIn(route.query)
    slips.value = await askWith(slipsSchema, 'POST', `/runs/${props.id}/slips`, asked)
    await nextTick()
    await document.fonts.ready
    isReady.value = true
  } catch (error) {
    trouble.value = messageOf(error)
  }
})
</script>

<template>
  <p v-if="trouble" role="alert">{{ trouble }}</p>
  <div v-else class="sheets" :data-ready="isReady || undefined">
    <SlipSheet v-for="(one, at) in words" :key="at" :head="slips!.head" :words="one" />
  </div>
</template>

<style scoped>
.sheets { max-width: 190mm; margin: 0 auto; }
@media print { .sheets { max-width: none; } }
</style>
<style>
@page { margin: 18mm 16mm; }
</style>
