<script setup lang="ts">
/** The gate as it is taken to where it is used: in plain words, or in another language, ready to copy or to take as a file. */
import { computed, ref } from 'vue'
import SideTabs from '../shared/SideTabs.vue'
import { useNotices } from '../shared/notices'
import { type Format, FORMATS, type Shown, shownAs } from './shown'

const props = defineProps<{ shown: Shown }>()
const emit = defineEmits<{ close: [] }>()

const notices = useNotices()
const format = ref<Format>('words')
const gate = computed(() => props.shown.question.gate)
const outcome = ref(gate.value.outcomes[0]!.name)
const chosen = computed(() => FORMATS.find(({ name }) => name === format.value)!)
/** The others say all outcomes at once. */
const isOfOne = computed(() => ['sql', 'formula', 'feel'].includes(format.value))
const written = computed(() => shownAs(format.value, props.shown, outcome.value))
const text = computed(() => ('text' in written.value ? written.value.text : ''))

async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(text.value)
    notices.say(`${chosen.value.words} copied.`)
  } catch {
    notices.warn('The browser does not let the page copy. Mark the text, and copy it yourself.')
  }
}

function take(): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text.value], { type: 'text/plain' }))
  link.download = `${gate.value.name.replace(/[^\p{L}\p{N} _-]+/gu, ' ').trim() || 'gate'}.${chosen.value.file}`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<template>
  <v-dialog :model-value="true" max-width="860" :aria-label="`${gate.name}, to take elsewhere`" @update:model-value="emit('close')">
    <v-card class="pa-5 showing">
      <h1>{{ gate.name }}<span class="second"> to take elsewhere</span></h1>
      <SideTabs v-model="format" label="Shown as" :tabs="FORMATS" />
      <p v-if="'trouble' in written" class="notice problem" role="alert">{{ written.trouble }}</p>
      <template v-else>
        <p class="second remark">{{ chosen.remark }}<label v-if="isOfOne && gate.outcomes.length > 1" class="outcome">of <select v-model="outcome" aria-label="Which outcome"><option v-for="{ name } in gate.outcomes" :key="name" :value="name">{{ name }}</option></select></label></p>
        <pre tabindex="0" :class="{ prose: format === 'words' }" aria-label="The gate as text">{{ text }}</pre>
      </template>
      <div class="ways">
        <v-btn class="primary" :disabled="text === ''" @click="copy">Copy</v-btn>
        <v-btn :disabled="text === ''" @click="take">Take as a file</v-btn>
        <span class="space" />
        <v-btn @click="emit('close')">Close</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.showing { display: grid; grid-template-rows: auto auto auto minmax(0, 1fr) auto; gap: 10px; max-height: 84vh; }
h1 .second { font-weight: 400; }
.outcome { margin-left: 12px; white-space: nowrap; }
select { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 3px; height: 26px; }
.remark { font-size: 13.5px; }
pre { margin: 0; padding: 12px 14px; overflow: auto; font-family: var(--figures); font-size: 13.5px; line-height: 1.5; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; min-height: 160px; }
.prose { font-family: inherit; font-size: 15px; white-space: pre-wrap; }
.ways { display: flex; gap: 10px; }
.space { flex: 1; }
</style>
