<script setup lang="ts">
/** What one rule takes in order, and would take alone. */
import { ref } from 'vue'
import { count, share } from '../shared/format'
import { aloneWords } from './course'
import { useRuleCounts } from './course-counts'

const props = defineProps<{ at: number; isOpen: boolean }>()
const emit = defineEmits<{ choose: []; show: [what: 'alone' | 'only'] }>()
const { caught, alone, records } = useRuleCounts(() => props.at)
/** What is told of the share is looked for by whoever points at it; of hundreds of rules nobody needs it written. */
const isPointed = ref(false)
</script>

<template>
  <div class="counts" @pointerenter="isPointed = true" @pointerleave="isPointed = false">
    <button class="plain-button caught figure" type="button" data-cell="count" :aria-label="`${caught === null ? '…' : count(caught)} records taken by rule ${at + 1}. Show them`" @click="emit('choose')">{{ caught === null ? '…' : count(caught) }}</button>
    <button class="plain-button second alone" type="button" :disabled="!alone" :title="isPointed && caught !== null ? `${share(caught, records)} of all in order` : undefined" @click="emit('show', 'alone')">{{ aloneWords(caught, alone) }}</button>
    <button v-if="isOpen" class="plain-button second alone" type="button" @click="emit('show', 'only')">no other would</button>
  </div>
</template>

<style scoped>
.counts { display: grid; justify-items: end; line-height: 1.25; }
.caught { font-size: 17px; font-weight: 600; min-height: 24px; }
.caught:hover, .alone:not(:disabled):hover { text-decoration: underline; }
.alone { font-size: 12.5px; min-height: 24px; white-space: nowrap; }
.alone:disabled { cursor: default; }
@media (max-width: 760px) {
  .alone { white-space: normal; text-align: right; }
}
</style>
