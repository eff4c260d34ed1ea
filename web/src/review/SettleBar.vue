<script setup lang="ts">
/** What is done to the exception in hand: settled with a note, given another label, its value corrected, or handed to somebody; alone, or with all that are alike. */
import type { ActRequest, Exception } from '@dime-gate/contract/review'
import type { Run } from '@dime-gate/contract/run'
import type { Cell, Column } from '@dime-gate/contract/table'
import { COMPUTED } from '@dime-gate/core/result/tray'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { counted, DECIMAL_MARK } from '../shared/format'
import { withUnit } from '../shared/words'
import { listedWords } from '../table/cell-words'
import { holdsUntil } from './exception-words'

/** @property alike null as long as they are not counted */
export type InHand = Exception & { alike: number | null }
export type Doing = ActRequest['kind']
export type Said = Pick<ActRequest, 'kind' | 'isAlike' | 'note' | 'outcomes' | 'correction' | 'to'>

/** @property columns whose values can be corrected, those that the reasons speak of first @property cells of the record by column, as they are now @property about inputs that the reasons speak of @property people whom others were handed to */
const props = defineProps<{ exception: InHand; run: Run; columns: Column[]; cells: ReadonlyMap<number, Cell> | null; about: string[]; people: string[]; isBusy: boolean }>()
const emit = defineEmits<{ done: [said: Said] }>()

const doing = defineModel<Doing>('doing', { required: true })
const note = defineModel<string>('note', { required: true })
const isAlike = ref(false)
const label = ref<string | null>(null)
const others = ref<Record<string, string>>({})
const column = ref<number | null>(null)
const typed = ref('')
/** Whom it is handed to; nobody where it is empty. */
const to = ref('')
const host = useTemplateRef<HTMLElement>('host')

const labels = computed(() => [...new Set([...props.run.labels, ...(props.run.otherwise ? [props.run.otherwise] : [])].map(({ label: one }) => one))].filter((one) => one !== COMPUTED))
const further = computed(() => props.run.gate.outcomes.slice(1))
const inHand = computed(() => props.columns.find(({ id }) => id === column.value) ?? null)
const isReady = computed(() => !props.isBusy && (doing.value === 'settled' || (doing.value === 'overridden' ? label.value !== null && note.value.trim() !== '' : doing.value === 'handed' ? isAlike.value || to.value.trim() !== (props.exception.waitsFor ?? '') : inHand.value !== null && typed.value !== writtenNow.value)))
const writtenNow = computed(() => { const cell = column.value === null ? undefined : props.cells?.get(column.value); return cell ? (cell[1] ?? cell[0] ?? '') : '' })

watch(() => `${props.exception.runId} ${props.exception.record}`, () => {
  isAlike.value = false
  label.value = null
  others.value = {}
  doing.value = 'settled'
})
watch([doing, () => props.columns], () => {
  if (doing.value !== 'corrected') return
  isAlike.value = false
  column.value = props.columns[0]?.id ?? null
}, { immediate: true })
// What stands there may come, or change, while somebody types: their words stay.
watch([column, writtenNow], ([at, now], [before, was]) => {
  if (at !== before || typed.value === (was ?? '')) typed.value = now
}, { immediate: true })

// It begins with whom it waits for: nobody is taken off it by an Enter too many.
watch(doing, (now) => now === 'handed' && (to.value = props.exception.waitsFor ?? ''))

/** To what is typed first. */
async function focus(): Promise<void> {
  await nextTick()
  const field = host.value?.querySelector<HTMLInputElement>(doing.value === 'settled' ? '.note input' : doing.value === 'overridden' ? '.label input' : doing.value === 'handed' ? '.person input' : '.value input')
  field?.focus()
  if (doing.value === 'corrected') field?.select()
}
watch(doing, (now, before) => before !== undefined && now !== 'settled' && void focus())
// There is nothing to correct until it is known what stands there now.
watch(() => props.columns.length > 0, (isThere) => isThere && doing.value === 'corrected' && void focus())

function done(): void {
  if (!isReady.value) return
  const outcomes = doing.value !== 'overridden' ? null : { [props.run.gate.outcomes[0]!.name]: label.value, ...Object.fromEntries(Object.entries(others.value).filter(([, text]) => text.trim() !== '')) }
  emit('done', { kind: doing.value, isAlike: isAlike.value, note: doing.value === 'handed' ? '' : [correctedWords(), note.value.trim()].filter(Boolean).join('; '), outcomes, correction: correction(), to: doing.value === 'handed' ? to.value.trim() : null })
}

/** There is nothing to correct before it is known what stands there. */
function correction(): Said['correction'] {
  if (doing.value !== 'corrected') return null
  return { column: inHand.value!.id, text: typed.value, seen: props.cells!.get(inHand.value!.id)!, reading: { decimalMark: DECIMAL_MARK, dateOrder: 'day' } }
}

function correctedWords(): string {
  return doing.value === 'corrected' ? `${inHand.value!.name} ${listedWords(props.cells!.get(inHand.value!.id), inHand.value!)} → ${typed.value || 'blank'}` : ''
}

const DO: Record<Doing, string> = { settled: 'Settle', overridden: 'Override', corrected: 'Correct', handed: 'Hand on' }

defineExpose({ focus, toggleAlike: () => doing.value !== 'corrected' && (props.exception.alike ?? 0) > 0 && (isAlike.value = !isAlike.value) })
</script>

<template>
  <form ref="host" class="bar" @submit.prevent="done" @keydown.esc.stop="doing = 'settled'">
    <div class="line">
      <v-autocomplete v-if="doing === 'overridden'" v-model="label" class="label" :items="labels" label="Give it" density="compact" variant="outlined" hide-details auto-select-first />
      <span v-if="doing === 'corrected' && columns.length === 0" class="second" role="status">Looking at what stands there now …</span>
      <template v-if="doing === 'corrected' && columns.length > 0">
        <v-select v-model="column" class="column" :items="columns.map(({ id, name, unit }) => ({ value: id, title: withUnit(name, unit) }))" label="Correct" density="compact" variant="outlined" hide-details />
        <v-text-field v-model="typed" class="value" label="to" density="compact" variant="outlined" hide-details />
      </template>
      <template v-if="doing === 'handed'">
        <v-text-field v-model="to" class="person" list="people-known" label="It waits for (nobody, where this is empty)" density="compact" variant="outlined" maxlength="120" hide-details autocomplete="off" />
        <datalist id="people-known"><option v-for="name in people" :key="name" :value="name" /></datalist>
      </template>
      <v-text-field v-else v-model="note" class="note" :label="doing === 'overridden' ? 'Because' : doing === 'corrected' ? 'Note (or none)' : 'Note: why it can stay as it is (or none)'" density="compact" variant="outlined" maxlength="2000" hide-details />
      <template v-if="doing === 'overridden'">
        <v-text-field v-for="outcome in further" :key="outcome.name" v-model="others[outcome.name]" :label="`${outcome.name} (or as it is)`" density="compact" variant="outlined" hide-details />
      </template>
      <v-btn class="primary" type="submit" :disabled="!isReady" data-do>{{ DO[doing] }}<template v-if="isAlike">&nbsp;all {{ exception.alike! + 1 }}</template><kbd>⏎</kbd></v-btn>
    </div>
    <div class="line">
      <template v-if="doing === 'settled'"><span class="second">or</span><v-btn @click="doing = 'overridden'">Give it another label<kbd>O</kbd></v-btn><v-btn :disabled="columns.length === 0" @click="doing = 'corrected'">Correct the value<kbd>V</kbd></v-btn><v-btn @click="doing = 'handed'">Hand it to …<kbd>W</kbd></v-btn></template>
      <v-btn v-else @click="doing = 'settled'">Back<kbd>Esc</kbd></v-btn>
      <v-checkbox v-if="(exception.alike ?? 0) > 0 && doing !== 'corrected'" v-model="isAlike" class="alike" :label="`with the ${counted(exception.alike!, 'other')} alike`" density="compact" hide-details />
      <span class="second until">{{ doing === 'handed' ? 'it goes on waiting, for them' : holdsUntil(doing === 'overridden' ? [] : about) }}</span>
    </div>
  </form>
</template>

<style scoped>
.bar { display: grid; gap: 8px; padding: 14px 0; border-top: 2px solid var(--ink); }
.line { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 12px; }
.note { flex: 3; min-width: 200px; }
.label, .column, .value, .person { flex: 2; min-width: 140px; }
.until { margin-left: auto; font-size: 13px; text-align: right; max-width: 300px; }
.alike { flex: none; }
</style>
