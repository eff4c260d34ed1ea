<script setup lang="ts">
/** What should be looked at, each kind with its records; choosing one lists them. */
import type { Gate } from '@dime-gate/core/gate/document'
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { type Tray, trayName } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { vMeaning } from '../help/v-meaning'
import { count, share } from '../shared/format'
import { trayWords } from '../shared/words'
import { toLookAt } from './to-look-at'

const props = defineProps<{ gate: Gate; counts: Counts | null; further: FurtherCounts | null; tray: Tray }>()
const emit = defineEmits<{ show: [tray: Tray] }>()
const kinds = computed(() => (props.counts ? toLookAt(props.gate, props.counts, props.further) : []))
const isShown = (tray: Tray) => trayName(tray) === trayName(props.tray)
</script>

<template>
  <section>
    <h2>To look at <span v-if="further" class="figure">{{ count(further.exceptions) }}</span></h2>
    <button v-for="{ tray: kind, records, remark } in kinds" :key="kind.kind" v-meaning="kind" class="plain-button line" :class="{ shown: isShown(kind) }" type="button" :disabled="records === 0" :aria-pressed="isShown(kind)" :data-tray="kind.kind" @click="emit('show', isShown(kind) ? { kind: 'all' } : kind)">
      <b>{{ trayWords(kind, gate) }}</b> <span class="second remark">{{ remark }}</span> <span class="figure records">{{ records === null ? '…' : count(records) }}</span><span class="figure second part">{{ records === null ? '' : share(records, counts!.records) }}</span>
    </button>
  </section>
</template>

<style scoped>
section { display: grid; gap: 5px; align-content: start; }
.line { display: grid; grid-template-columns: auto 1fr auto 58px; gap: 8px; align-items: baseline; padding: 4px 6px; margin: 0 -6px; border-bottom: 1px solid var(--hairline); }
.line:disabled { cursor: default; color: var(--second); }
.line:not(:disabled):hover b { text-decoration: underline; }
.line.shown { background: var(--tint); }
.remark { font-size: 13px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.records { font-weight: 600; }
.part { font-size: 12.5px; text-align: right; white-space: nowrap; }
</style>
