<script setup lang="ts">
/** The gate's form, and what it would be in another: what would be lost by it, or why it cannot be. */
import type { Gate } from '@dime-gate/core/gate/document'
import type { FormChange, FormName } from '@dime-gate/core/form/form-change'
import { changeWords, refusalWords } from '@dime-gate/core/form/form-words'
import { ref, shallowRef, watch } from 'vue'
import { useCommands } from '../finder/commands'
import { formWords, sizeWords } from '../rules/rule-words'

const props = defineProps<{ gate: Gate; inForm: (gate: Gate, form: FormName) => Promise<FormChange> }>()
const emit = defineEmits<{ change: [gate: Gate]; bring: [] }>()

const FORMS: readonly { form: FormName; words: string }[] = [{ form: 'rules', words: 'Rules' }, { form: 'scale', words: 'Scale' }, { form: 'match', words: 'Match list' }, { form: 'grid', words: 'Grid' }]
const isOpen = ref(false)
const ways = shallowRef<{ words: string; form: FormName; change: FormChange | null }[]>([])

watch(isOpen, async (now) => {
  if (!now) return
  const { gate } = props
  ways.value = FORMS.filter(({ form }) => form !== gate.form).map((one) => ({ ...one, change: null }))
  for (const [at, { form }] of ways.value.entries()) {
    const change = await props.inForm(gate, form)
    if (props.gate !== gate) return
    ways.value = ways.value.with(at, { ...ways.value[at]!, change })
  }
})
useCommands([{ words: 'Change the form: rules, scale, match list, grid', act: () => (isOpen.value = true) }])

function take(change: FormChange | null): void {
  if (!change || 'refusal' in change) return
  isOpen.value = false
  emit('change', change.gate)
}

function told(change: FormChange | null, form: FormName): string[] {
  if (!change) return ['…']
  return 'refusal' in change ? [refusalWords(change.refusal, form)] : [`${sizeWords(change.gate)}, every record as now`, ...changeWords(change.losses)]
}
</script>

<template>
  <v-menu v-model="isOpen" :close-on-content-click="false">
    <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button pill" type="button" :aria-label="`Form: ${formWords(gate)}. Change it`">{{ formWords(gate) }}</button></template>
    <v-card class="pa-3 forms" width="330">
      <h2>In another form</h2>
      <ul>
        <li v-for="{ words, form, change } in ways" :key="form">
          <button class="plain-button way" type="button" :data-form="form" :disabled="!change || 'refusal' in change" @click="take(change)">
            <b>{{ words }}</b><span v-for="line in told(change, form)" :key="line" class="second">{{ line }}</span>
          </button>
        </li>
        <li><button class="plain-button way" type="button" @click="isOpen = false; emit('bring')"><b>Bring it in <kbd>G</kbd></b><span class="second">a chart, a formula, SQL, FEEL or DMN, in place of what stands here</span></button></li>
      </ul>
    </v-card>
  </v-menu>
</template>

<style scoped>
.pill { white-space: nowrap; }
.pill:hover { border-color: var(--second); }
.forms { display: grid; gap: 6px; }
ul { list-style: none; margin: 0; padding: 0; }
.way { display: grid; gap: 1px; width: 100%; padding: 7px 8px; border-top: 1px solid var(--hairline); font-size: 13.5px; }
.way b { font-size: 14px; color: var(--pine); }
.way:not(:disabled):hover { background: var(--sheet); }
.way:disabled { cursor: default; }
.way:disabled b { color: var(--second); font-weight: 600; }
</style>
