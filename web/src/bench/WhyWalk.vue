<script setup lang="ts">
/** Why a record gets what it gets, rule by rule and test by test; nothing for a gate without rules. */
import type { Why } from '@dime-gate/core/decide/why'
import type { Gate } from '@dime-gate/core/gate/document'
import { computed } from 'vue'
import { walkWords } from './walk-words'

const props = defineProps<{ why: Why; gate: Gate }>()
const walk = computed(() => (props.gate.form === 'rules' ? walkWords(props.why, props.gate) : []))
</script>

<template>
  <ol v-if="walk.length > 0" class="walk" aria-label="Why">
    <li v-for="step in walk" :key="step.rule" :value="step.rule + 1" :class="step.verdict">
      <span v-for="(test, at) in step.tests" :key="at" class="test"><span class="verdict" :class="test.verdict" role="img" :aria-label="test.verdict" />{{ test.words }}<span v-if="test.remark" class="second">, {{ test.remark }}</span></span>
    </li>
  </ol>
</template>

<style scoped>
.walk { margin: 0; padding: 0 0 0 22px; font-size: 13px; line-height: 1.4; }
.walk li::marker { font-family: var(--figures); color: var(--second); }
.walk li.true { font-weight: 600; }
.test { display: block; overflow-wrap: anywhere; }
.verdict { display: inline-block; width: 8px; height: 8px; margin-right: 6px; border: 1.5px solid var(--second); border-radius: 50%; }
.verdict.true { background: var(--pine); border-color: var(--pine); }
.verdict.unknown { border-style: dashed; border-color: var(--brass); }
</style>
