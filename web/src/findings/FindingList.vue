<script setup lang="ts">
/** What analysis says of a gate before anyone asks, the one step that would mend it, where there is one, and what is meant to be so. */
import type { Gate, Meant } from '@dime-gate/core/gate/document'
import { computed, toRef } from 'vue'
import { counted } from '../shared/format'
import { LONGEST_KEPT, type ToldFinding, type ToldFindings, type ToldFix } from './told-findings'
import { useWay } from './useWay'

/**
 * @property fix looks for what mends a finding; null where no single step does
 * @property isTitled whether what is around says already what they are
 * @property meant findings that somebody said are meant to be so
 */
const props = defineProps<{ findings: ToldFindings | null; fix: (at: number) => Promise<ToldFix | null>; meant: readonly Meant[]; isTitled?: boolean }>()
const emit = defineEmits<{ mend: [gate: Gate]; point: [finding: ToldFinding]; mean: [meant: Meant[]] }>()
const SEVERITY_WORDS = { error: 'error', warning: 'warning', note: 'note' } as const

const { way, look } = useWay(toRef(props, 'findings'), (at) => props.fix(at))

const keys = computed(() => new Set(props.meant.map(({ key }) => key)))
const open = computed(() => (props.findings?.told ?? []).map((finding, at) => ({ ...finding, at, isChosen: finding === way.value?.finding })).filter(({ key, severity }) => severity === 'error' || !keys.value.has(key)))
/** Those that there is still something to say of. */
const settled = computed(() => (props.findings?.told ?? []).filter(({ key, severity }) => severity !== 'error' && keys.value.has(key)))

const mean = ({ words, key }: ToldFinding) => emit('mean', [...props.meant, { finding: words.slice(0, LONGEST_KEPT), key }])
const askAgain = ({ key }: ToldFinding) => emit('mean', props.meant.filter((one) => one.key !== key))
</script>

<template>
  <section>
    <h2 :class="{ 'visually-hidden': isTitled }">Findings <span v-if="findings" class="figure">{{ open.length + findings.more }}</span></h2>
    <p v-if="findings && open.length === 0" class="second">Nothing to find fault with.</p>
    <ul>
      <li v-for="row in open" :key="row.at">
        <span class="sign" :class="row.severity" role="img" :aria-label="SEVERITY_WORDS[row.severity]" />
        <div>
          <button v-if="row.rules.length || row.where" class="plain-button told" type="button" @click="emit('point', row)">{{ row.words }}</button><template v-else>{{ row.words }}</template><span v-if="row.example" class="second example">{{ row.example }}</span>
          <span class="ways">
            <button v-if="!row.isChosen" type="button" class="plain-button link" :aria-label="`What would mend it: ${row.words}`" @click="look(row.at)">What would mend it?</button>
            <button v-if="row.severity !== 'error'" type="button" class="plain-button link" :aria-label="`It is meant so: ${row.words}`" @click="mean(row)">It is meant so</button>
          </span>
          <p v-if="way && row.isChosen" class="way" role="status">
            <template v-if="way.fix">{{ way.fix.words }} <v-btn size="small" @click="emit('mend', way.fix.gate)">Do it</v-btn></template>
            <span v-else class="second">{{ way.fix === null ? 'No single step is known to do.' : 'Looking …' }}</span>
          </p>
        </div>
      </li>
    </ul>
    <p v-if="findings && findings.more > 0" class="second">and {{ counted(findings.more, 'more', 'more') }} of the same kinds</p>
    <details v-if="settled.length > 0">
      <summary class="second">{{ counted(settled.length, 'finding is', 'findings are') }} meant to be so</summary>
      <ul>
        <li v-for="row in settled" :key="row.key" class="meant"><div>{{ row.words }} <button type="button" class="plain-button link" :aria-label="`Ask again: ${row.words}`" @click="askAgain(row)">Ask again</button></div></li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
section { display: grid; gap: 5px; align-content: start; }
ul { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 16px minmax(0, 1fr); gap: 6px; padding: 6px 0; border-bottom: 1px solid var(--hairline); font-size: 14px; line-height: 1.35; overflow-wrap: anywhere; }
li.meant { grid-template-columns: minmax(0, 1fr); font-size: 13px; }
.told:hover { text-decoration: underline; text-underline-offset: 3px; }
.example { display: block; font-size: 13px; }
.ways { display: flex; flex-wrap: wrap; gap: 0 14px; }
.link { font-size: 13px; padding: 3px 0; min-height: 24px; color: var(--second); text-decoration: underline; text-underline-offset: 3px; }
.link:hover { color: inherit; }
.way { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 10px; padding: 4px 0; }
.sign { width: 9px; height: 9px; margin-top: 5px; rotate: 45deg; background: var(--second); }
.sign.warning { background: var(--brass); }
.sign.error { background: var(--brick); }
summary { cursor: pointer; font-size: 13px; min-height: 24px; }
</style>
