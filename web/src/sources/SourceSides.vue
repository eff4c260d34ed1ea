<script setup lang="ts">
/** A text that somebody already has, beside what it becomes: each branch pointed to its rule, what is not understood marked in place, and what its author never saw. */
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { Table } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { ToldFinding } from '../findings/told-findings'
import { findingsWorker } from '../findings/useFindings'
import { askText } from '../shared/api'
import { freeName } from '../shared/free-name'
import { useTelling } from '../shared/useTelling'
import { listed } from '../shared/words'
import { plainParts, plainWords } from '../showing/plain-words'
import { type Note, readSource, type ReadSource, sourceOf, SOURCES, type Source, type Stretch, underFreeNames, wantedOf } from './read-source'

/** @property table that it is for, where that is known @property tables that may hold a chart @property taken names that others have @property asOf null until it is known */
const props = defineProps<{ table: Table | null; tables?: readonly { id: number; name: string; records: number }[]; taken: readonly string[]; asOf: string | null; isNamed?: boolean; called?: string }>()
/** What it has become so far, each gate with the columns that its inputs are named after. */
const became = defineModel<{ gate: Gate; inputs: BoundInputs }[]>({ default: () => [] })

const text = ref('')
/** Chosen by hand; otherwise what the text seems to be. */
const chosen = ref<Source | null>(null)
const source = computed({ get: () => chosen.value ?? sourceOf(text.value), set: (now) => (chosen.value = now) })
const name = ref(props.called ?? 'Brought in')
const input = ref<string | null>(null)
const { trouble, tell } = useTelling()
const field = useTemplateRef<HTMLTextAreaElement>('field')
const picker = useTemplateRef<HTMLInputElement>('picker')
defineExpose({ focus: () => field.value?.focus() })

watch(text, (now, before) => before.trim() === '' && now.trim() !== '' && (chosen.value = null))

const numeric = computed(() => (props.table?.columns ?? []).filter(({ type }) => isNumeric(type)).map((column) => column.name))
const read = computed((): ReadSource => {
  if (text.value.trim() === '' || props.asOf === null) return { gates: [], notes: [] }
  const found = readSource(text.value, source.value, { name: name.value.trim() || 'Brought in', asOf: props.asOf, ...(input.value === null ? {} : { input: input.value }) })
  return { ...found, gates: underFreeNames(found.gates, freeName, props.taken) }
})
const notes = computed(() => [...read.value.notes].sort((a, b) => weight(a) - weight(b)))
const weight = ({ severity }: Note) => ['error', 'warning', 'note'].indexOf(severity)
const hasOwnName = computed(() => source.value === 'dmn' || source.value === 'document')
const gates = computed(() => read.value.gates.map((gate) => ({ gate, words: plainWords(gate), parts: plainParts(gate), bound: bound(gate) })))
/** Inputs that no column is named after. */
const bound = (gate: Gate) => {
  const given = gate.inputs.filter((one) => one.source.kind === 'given')
  const inputs = props.table ? boundByNames(gate.inputs, props.table.columns, props.table.sets) : {}
  return { inputs, missing: given.filter((one) => !inputs[one.name]).map((one) => one.name) }
}
/** Of several, those that are left out; what feeds a wanted one comes along. */
const unwanted = shallowRef<ReadonlySet<string>>(new Set())
const wanted = computed(() => new Set(wantedOf(read.value.gates, unwanted.value)))
watch(text, () => (unwanted.value = new Set()))
function want(name: string, isWanted: boolean): void {
  const next = new Set(unwanted.value)
  if (isWanted) next.delete(name)
  else next.add(name)
  unwanted.value = next
}
watch([gates, wanted], () => (became.value = gates.value.filter(({ gate }) => wanted.value.has(gate)).map(({ gate, bound: { inputs } }) => ({ gate, inputs }))))

// What its author never saw.
const analysis = findingsWorker()
const findings = shallowRef<{ gate: string; told: ToldFinding[] }[]>([])
watch(() => read.value.gates, async (all) => {
  const found: typeof findings.value = []
  for (const [at, gate] of all.entries()) {
    const told = await analysis.findings({ gate, feeding: all.slice(0, at).map((one) => ({ gate: one, inputs: {} })), asOf: props.asOf! })
    if (read.value.gates !== all) return
    found.push({ gate: gate.name, told: told?.told ?? [] })
  }
  findings.value = found
})

function select({ from, to }: Stretch): void {
  field.value?.focus()
  field.value?.setSelectionRange(from, to)
}
const point = ({ from, to }: Note) => from !== null && select({ from, to: to ?? from + 1 })

/** Where the caret is: the rule that comes of the branch around it is marked. */
const caret = ref<number | null>(null)
const places = computed(() => [...(read.value.branches ?? []), ...(read.value.rest ? [read.value.rest] : [])])
/** Branches lie within each other where conditionals are nested: the innermost counts. */
const under = computed(() => {
  const { value: at } = caret
  const around = places.value.map(({ from, to }, place) => ({ place, length: to - from, isIn: at !== null && from <= at && at <= to })).filter(({ isIn }) => isIn)
  return around.sort((a, b) => a.length - b.length)[0]?.place ?? null
})
watch(text, () => (caret.value = null))

/** More lines than a chart has. */
const MOST_RECORDS = 200
const charts = computed(() => (props.tables ?? []).filter(({ records }) => records > 0 && records <= MOST_RECORDS))
/** A table whose records are thresholds and labels, as the text that its file would be. */
function takeTable({ id, name: called }: { id: number; name: string }): Promise<boolean> {
  return tell(async () => {
    text.value = await askText(`/tables/${id}/file.csv`)
    chosen.value = 'chart'
    name.value = called
  })
}

async function takeFile(event: Event): Promise<void> {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (!file) return
  await tell(async () => {
    text.value = await file.text()
    chosen.value = null
    name.value = file.name.replace(/\.[^.]*$/, '')
  })
}
</script>

<template>
  <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
  <div class="sides">
    <div class="text">
      <div class="line">
        <v-select v-model="source" :items="SOURCES" label="It is" class="what" />
        <input ref="picker" class="visually-hidden" type="file" accept=".dmn,.xml,.json,.txt,.csv,.tsv,.sql,.feel" aria-label="A file to bring in" tabindex="-1" @change="takeFile">
        <v-btn @click="picker?.click()">From a file</v-btn>
        <v-menu v-if="charts.length > 0" max-height="320">
          <template #activator="{ props: menu }"><v-btn v-bind="menu">From a table</v-btn></template>
          <v-list density="compact"><v-list-item v-for="one in charts" :key="one.id" :title="one.name" @click="takeTable(one)" /></v-list>
        </v-menu>
      </div>
      <textarea ref="field" v-model="text" aria-label="The text" spellcheck="false" :placeholder="'90\tcrown\n60\tclimb\n0\tground'" @keyup="caret = field!.selectionStart" @click="caret = field!.selectionStart" />
      <ul v-if="notes.length > 0" class="notes" aria-label="What is to be said of the text">
        <li v-for="note in notes" :key="note.words"><span class="sign" :class="note.severity" role="img" :aria-label="note.severity" /><button v-if="note.from !== null" class="plain-button told" type="button" @click="point(note)">{{ note.words }}</button><span v-else>{{ note.words }}</span></li>
      </ul>
    </div>
    <div class="became">
      <div v-if="$slots.for || source === 'chart'" class="line">
        <slot name="for" />
        <v-select v-if="source === 'chart'" v-model="input" :items="[{ value: null, title: 'as the chart says' }, ...numeric.map((one) => ({ value: one, title: one }))]" label="Its thresholds are of" class="what" />
      </div>
      <label v-if="isNamed && !hasOwnName" class="name">Name of the gate <input v-model="name" maxlength="120"></label>
      <p v-if="text.trim() === ''" class="second empty">What it becomes stands here: the rules in plain words, and what its author never saw.</p>
      <p v-else-if="gates.length === 0" class="second empty">Nothing becomes of it as it stands.</p>
      <article v-for="({ gate, words: said, parts, bound: on }, at) in gates" :key="gate.name" :class="{ left: !wanted.has(gate) }" :data-became="gate.name">
        <v-checkbox v-if="gates.length > 1" :label="wanted.has(gate) && unwanted.has(gate.name) ? `${gate.name}, which feeds another` : gate.name" :model-value="wanted.has(gate)" @update:model-value="want(gate.name, $event === true)" />
        <template v-if="read.branches">
          <p v-for="line in parts.before" :key="line">{{ line }}</p>
          <ol>
            <li v-for="(line, rule) in parts.rules" :key="rule" :class="{ under: under === rule }"><button class="plain-button branch" type="button" :data-branch="rule" title="Show where it stands in the text" @click="select(read.branches[rule]!)">{{ line }}</button></li>
          </ol>
          <p :class="{ under: read.rest && under === read.branches.length }"><button v-if="read.rest" class="plain-button branch" type="button" data-branch="rest" @click="select(read.rest)">{{ parts.rest }}</button><template v-else>{{ parts.rest }}</template></p>
          <p v-for="line in parts.after" :key="line" class="second">{{ line }}</p>
        </template>
        <pre v-else>{{ said }}</pre>
        <p v-if="table && on.missing.length > 0" class="second">{{ table.name }} has no column named {{ listed(on.missing) }} of that kind: it is bound on the bench.</p>
        <ul v-if="findings[at]?.gate === gate.name && findings[at].told.length > 0" class="notes" :aria-label="`Findings of ${gate.name}`">
          <li v-for="finding in findings[at].told" :key="finding.key"><span class="sign" :class="finding.severity" role="img" :aria-label="finding.severity" /><span>{{ finding.words }}<span v-if="finding.example" class="second example"> {{ finding.example }}</span></span></li>
        </ul>
      </article>
      <slot name="ways" />
    </div>
  </div>
</template>

<style scoped>
.sides { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 26px; align-items: start; }
.text, .became { display: grid; gap: 10px; align-content: start; min-width: 0; }
.line { display: flex; gap: 12px; align-items: center; }
.what { flex: 1; min-width: 0; }
textarea { min-height: 46dvh; padding: 12px 14px; font-family: var(--figures); font-size: 14px; line-height: 1.5; color: var(--ink); background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; resize: vertical; }
.name { display: flex; gap: 8px; align-items: baseline; }
.name input { flex: 1; height: 30px; padding: 0 6px; font: inherit; font-weight: 600; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.empty { padding: 20px 0; }
article { display: grid; gap: 8px; max-height: 62dvh; overflow: auto; padding: 10px 14px; background: var(--sheet); border: 1px solid var(--hairline); border-radius: 4px; }
pre { margin: 0; font: inherit; font-size: 14.5px; white-space: pre-wrap; overflow-wrap: anywhere; }
ol { margin: 0; padding-left: 22px; }
.branch { min-height: 26px; padding: 2px 4px; border-radius: 3px; }
.branch:hover { text-decoration: underline; text-decoration-color: var(--brass); text-underline-offset: 4px; }
.under .branch { background: var(--tint); }
.left { border-style: dashed; background: none; }
.notes { list-style: none; margin: 0; padding: 0; font-size: 13.5px; }
.notes li { display: grid; grid-template-columns: 16px minmax(0, 1fr); gap: 6px; align-items: baseline; padding: 3px 0; }
.sign { width: 9px; height: 9px; transform: rotate(45deg); background: var(--second); }
.sign.error { background: var(--brick); }
.sign.warning { background: var(--brass); }
.told { min-height: 24px; text-decoration: underline; text-underline-offset: 3px; }
.example { margin-left: 6px; }
@media (max-width: 860px) {
  .sides { grid-template-columns: minmax(0, 1fr); }
  textarea { min-height: 30dvh; }
}
</style>
