<script setup lang="ts">
/** What analysis says of a gate before anyone asks. */
import type { ToldFindings } from '../records/session'
import { counted } from '../shared/format'

defineProps<{ findings: ToldFindings | null }>()
const SEVERITY_WORDS = { error: 'error', warning: 'warning', note: 'note' } as const
</script>

<template>
  <section>
    <h2>Findings <span v-if="findings" class="figure">{{ findings.told.length + findings.more }}</span></h2>
    <p v-if="findings && findings.told.length === 0" class="second">Nothing to find fault with.</p>
    <ul>
      <li v-for="(row, index) in findings?.told ?? []" :key="index">
        <span class="sign" :class="row.severity" role="img" :aria-label="SEVERITY_WORDS[row.severity]" />
        <span>{{ row.words }}<span v-if="row.example" class="second example">{{ row.example }}</span></span>
      </li>
    </ul>
    <p v-if="findings && findings.more > 0" class="second">and {{ counted(findings.more, 'more', 'more') }} of the same kinds</p>
  </section>
</template>

<style scoped>
section { display: grid; gap: 5px; align-content: start; }
ul { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 16px 1fr; gap: 6px; padding: 6px 0; border-bottom: 1px solid var(--hairline); font-size: 14px; line-height: 1.35; overflow-wrap: anywhere; }
.example { display: block; font-size: 13px; }
.sign { width: 9px; height: 9px; margin-top: 5px; rotate: 45deg; background: var(--second); }
.sign.warning { background: var(--brass); }
.sign.error { background: var(--brick); }
</style>
