<script setup lang="ts">
/** What analysis says of a gate before anyone asks, and the one step that would mend it, where there is one. */
import type { Gate } from '@dime-gate/core/gate/document'
import { shallowRef, watch } from 'vue'
import type { ToldFindings, ToldFix } from '../records/session'
import { counted } from '../shared/format'

/** @property fix looks for what mends a finding; null where no single step does */
const props = defineProps<{ findings: ToldFindings | null; fix: (sequence: number, at: number) => Promise<ToldFix | null> }>()
const emit = defineEmits<{ mend: [gate: Gate]; point: [rule: number] }>()
const SEVERITY_WORDS = { error: 'error', warning: 'warning', note: 'note' } as const

/** The finding that a way was looked for; the way is undefined while it is looked for. */
const chosen = shallowRef<{ at: number; fix: ToldFix | null | undefined } | null>(null)
watch(() => props.findings, () => (chosen.value = null))

async function look(at: number): Promise<void> {
  const own = { at, fix: undefined }
  chosen.value = own
  const fix = await props.fix(props.findings!.sequence, at)
  if (chosen.value === own) chosen.value = { at, fix }
}
</script>

<template>
  <section>
    <h2>Findings <span v-if="findings" class="figure">{{ findings.told.length + findings.more }}</span></h2>
    <p v-if="findings && findings.told.length === 0" class="second">Nothing to find fault with.</p>
    <ul>
      <li v-for="(row, index) in findings?.told ?? []" :key="index">
        <span class="sign" :class="row.severity" role="img" :aria-label="SEVERITY_WORDS[row.severity]" />
        <div>
          <button v-if="row.rules.length" class="plain-button" type="button" @click="emit('point', row.rules[0]!)">{{ row.words }}</button><template v-else>{{ row.words }}</template><span v-if="row.example" class="second example">{{ row.example }}</span>
          <button v-if="chosen?.at !== index" type="button" class="plain-button link" :aria-label="`What would mend it: ${row.words}`" @click="look(index)">What would mend it?</button>
          <p v-else class="way" role="status">
            <template v-if="chosen.fix">{{ chosen.fix.words }} <v-btn size="small" @click="emit('mend', chosen.fix.gate)">Do it</v-btn></template>
            <span v-else class="second">{{ chosen.fix === null ? 'No single step is known to do.' : 'Looking …' }}</span>
          </p>
        </div>
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
.link { display: block; font-size: 13px; padding: 3px 0; min-height: 24px; color: var(--second); text-decoration: underline; text-underline-offset: 3px; }
.link:hover { color: inherit; }
.way { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 10px; padding: 4px 0; }
.sign { width: 9px; height: 9px; margin-top: 5px; rotate: 45deg; background: var(--second); }
.sign.warning { background: var(--brass); }
.sign.error { background: var(--brick); }
</style>
