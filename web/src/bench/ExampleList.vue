<script setup lang="ts">
/** The records kept with a gate, each with what it should get and what it gets now. */
import type { Example } from '@dime-gate/core/gate/document'
import type { LabelLook } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import MarkCoin from '../shared/MarkCoin.vue'
import { valueWords } from '../shared/words'
import type { CheckedExample } from './trial'

const props = defineProps<{ checked: CheckedExample[]; labels: LabelLook[] }>()
const emit = defineEmits<{ try: [example: Example]; drop: [at: number]; take: [at: number, label: string | null] }>()

const missed = computed(() => props.checked.filter(({ isMet }) => !isMet).length)
const labelWords = (label: string | null) => (label === null ? 'no label' : label)
const lookOf = (label: string | null) => props.labels.find((one) => one.label === label)
const valuesOf = ({ values }: Example) => Object.entries(values).map(([name, text]) => `${name} ${valueWords(text)}`).join(', ') || 'all blank'
</script>

<template>
  <section v-if="checked.length > 0">
    <h2>Examples <span class="figure">{{ checked.length }}</span><span v-if="missed > 0" class="trouble">, {{ missed }} broken</span></h2>
    <ul>
      <li v-for="({ example, gets, isMet }, at) in checked" :key="at" :class="{ broken: !isMet }" data-example>
        <button class="plain-button values" type="button" :title="'Try it'" @click="emit('try', example)">{{ valuesOf(example) }}</button>
        <span class="should"><MarkCoin v-if="lookOf(example.label)" :mark="lookOf(example.label)!.mark" :colour="lookOf(example.label)!.colour" :size="12" /> {{ labelWords(example.label) }}</span>
        <button class="plain-button second drop" type="button" aria-label="Remove this example" @click="emit('drop', at)">×</button>
        <span v-if="!isMet" class="trouble gets">gets {{ labelWords(gets) }} now <button class="plain-button link" type="button" @click="emit('take', at, gets)">It should</button></span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section { display: grid; gap: 4px; }
ul { list-style: none; margin: 0; padding: 0; font-size: 13px; }
li { display: grid; grid-template-columns: minmax(0, 1fr) auto 24px; gap: 0 8px; align-items: baseline; padding: 3px 0; border-bottom: 1px solid var(--hairline); }
.values { overflow-wrap: anywhere; min-height: 24px; }
.values:hover { text-decoration: underline; }
.should { font-weight: 600; }
.drop { min-height: 24px; text-align: center; }
.gets { grid-column: 1 / -1; }
.link { min-height: 24px; padding-left: 6px; color: var(--pine); text-decoration: underline; text-underline-offset: 3px; }
</style>
