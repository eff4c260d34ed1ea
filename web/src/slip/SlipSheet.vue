<script setup lang="ts">
/** One record's own result on a sheet of its own: nothing of any other record stands on it. */
import type { SlipHead } from '@dime-gate/contract/slip'
import { date } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import type { SlipWords } from './slip-words'

defineProps<{ head: Pick<SlipHead, 'gate' | 'asOf' | 'tableName'>; words: SlipWords }>()
const VERDICTS = { true: 'holds', false: 'does not hold', unknown: 'not known' }
</script>

<template>
  <article class="slip on-paper v-theme--paper" :data-file="words.file">
    <header>
      <p class="of">{{ head.gate.name }}, as of {{ date(head.asOf) }}</p>
      <h1>{{ words.who.map(({ value }) => value).join(', ') }}</h1>
    </header>
    <p v-if="words.label !== null" class="label"><MarkCoin v-if="words.look" :mark="words.look.mark" :colour="words.look.colour" :size="26" /><b>{{ words.label || 'no value' }}</b></p>
    <p v-else class="label none"><b>No label</b></p>
    <p v-if="words.sentence" class="sentence">{{ words.sentence }}</p>
    <p v-for="line in words.remarks" :key="line">{{ line }}</p>
    <dl v-if="words.outcomes.length > 0"><div v-for="one in words.outcomes" :key="one.name"><dt>{{ one.name }}</dt><dd>{{ one.value }}</dd></div></dl>
    <template v-if="words.values.length > 0">
      <h2>What was looked at</h2>
      <dl><div v-for="one in words.values" :key="one.name"><dt>{{ one.name }}</dt><dd class="value">{{ one.value }}{{ one.unit ? ` ${one.unit}` : '' }}</dd></div></dl>
    </template>
    <template v-if="words.steps.length > 0 || words.because">
      <h2>Why</h2>
      <ol v-if="words.steps.length > 0">
        <li v-for="step in words.steps" :key="step.rule" :value="step.rule + 1" :class="step.verdict">
          <span v-for="(test, at) in step.tests" :key="at" class="test"><span>{{ test.words }}<span v-if="test.remark" class="second">: it is {{ test.remark }}</span></span><span class="verdict" :class="test.verdict">{{ VERDICTS[test.verdict] }}</span></span>
        </li>
      </ol>
      <p v-if="words.because">{{ words.because }}</p>
    </template>
    <template v-if="words.next"><h2>The next above</h2><p>{{ words.next }}</p></template>
    <footer><slot /></footer>
  </article>
</template>

<style scoped>
.slip { display: grid; gap: 8px; align-content: start; padding: 12mm 14mm; border: 1px solid var(--hairline); font-size: 15px; line-height: 1.45; }
/* A sheet that is not shown takes no room, whatever its layout is. */
.slip[hidden] { display: none; }
.of { color: var(--second); }
.slip h1 { font-size: 24px; overflow-wrap: anywhere; }
.slip h2 { margin-top: 12px; padding-bottom: 3px; border-bottom: 1.5px solid var(--ink); font-size: 14px; font-weight: 700; color: var(--ink); }
.label { display: flex; align-items: center; gap: 12px; margin: 10px 0 2px; font-size: 30px; line-height: 1.2; overflow-wrap: anywhere; }
.label.none { color: var(--second); }
.sentence { font-size: 17px; overflow-wrap: anywhere; }
dl { margin: 0; }
dl > div { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr); gap: 12px; padding: 4px 0; border-bottom: 1px solid var(--hairline); break-inside: avoid; }
dd { margin: 0; font-weight: 600; overflow-wrap: anywhere; }
.value { font-variant-numeric: tabular-nums; }
ol { margin: 0; padding-left: 26px; }
li { padding: 4px 0; border-bottom: 1px solid var(--hairline); break-inside: avoid; }
li.true { font-weight: 600; }
.test { display: flex; justify-content: space-between; gap: 16px; overflow-wrap: anywhere; }
.verdict { flex: none; color: var(--second); font-weight: 400; }
li.true .verdict.true { color: var(--pine); font-weight: 600; }
footer { margin-top: 10px; font-size: 13px; color: var(--second); }
@media (max-width: 640px) { .slip { padding: 18px 14px; } }
@media print {
  .slip { padding: 0; border: 0; break-after: page; }
  .slip:last-child { break-after: auto; }
}
</style>
