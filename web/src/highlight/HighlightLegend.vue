<script setup lang="ts">
/** The legend of what is pointed out among the records: each highlight with how many meet it, to list, order, change and add to. */
import type { Gate } from '@dime-gate/core/gate/document'
import { type Highlight, ofLabel } from '@dime-gate/core/highlight/highlight'
import { COMPUTED, type LabelLook, type Tray } from '@dime-gate/core/result/tray'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useCommands } from '../finder/commands'
import type { ToldHighlights } from '../records/session-highlights'
import { count, share } from '../shared/format'
import { freeName } from '../shared/free-name'
import MarkCoin from '../shared/MarkCoin.vue'
import { newHighlight } from './new-highlight'
import type { HighlightSession } from './useHighlights'

/** @property all how many records there are @property change puts others in their place */
const props = defineProps<{ gate: Gate; highlights: Highlight[]; told: ToldHighlights | null; labels: readonly LabelLook[]; all: number; tray: Tray; session: HighlightSession; change: (next: Highlight[], words?: string | null) => Promise<boolean> }>()
const emit = defineEmits<{ show: [tray: Tray] }>()

/** Not before it is asked for: it brings the editor of expressions. */
const HighlightDialog = defineAsyncComponent(() => import('./HighlightDialog.vue'))
/** The one that is open, by its place; as long as the list where it is new. */
const open = ref<number | null>(null)
const opened = computed(() => (open.value === null ? null : (props.highlights[open.value] ?? newHighlight(props.highlights))))
const isShown = ({ name }: Highlight) => props.tray.kind === 'highlighted' && props.tray.name === name
const labelName = computed(() => props.told?.gate.inputs[props.gate.inputs.length]?.name ?? null)
useCommands([{ words: 'Highlight records', key: 'h', act: () => (open.value = props.highlights.length), isOff: () => !props.told }])

async function keep(highlight: Highlight): Promise<void> {
  const at = open.value!
  const next = at < props.highlights.length ? props.highlights.with(at, highlight) : [...props.highlights, highlight]
  if (!(await props.change(next))) return
  open.value = null
  if (isShown(props.highlights[at] ?? highlight)) emit('show', { kind: 'highlighted', name: highlight.name })
}

function point({ label, colour, mark }: LabelLook): void {
  const highlight = ofLabel(props.gate, label, { colour, mark }, labelName.value!)
  void props.change([...props.highlights, { ...highlight, name: freeName(highlight.name || 'No value', props.highlights.map(({ name }) => name)) }])
}

function move(at: number, by: number): void {
  const next = [...props.highlights]
  const [one] = next.splice(at, 1)
  next.splice(at + by, 0, one!)
  void props.change(next)
}

async function remove(at: number): Promise<void> {
  const one = props.highlights[at]!
  if (isShown(one)) emit('show', { kind: 'all' })
  await props.change(props.highlights.toSpliced(at, 1), `“${one.name}” is not pointed out any more.`)
}
</script>

<template>
  <section class="legend" data-highlights>
    <h2><span class="title">Highlights</span>
      <v-menu v-if="told && labelName !== null" location="bottom end">
        <template #activator="{ props: menu }"><v-btn class="plain point" v-bind="menu">One label</v-btn></template>
        <v-list density="compact" max-height="380"><v-list-item v-for="label in labels.filter((one) => one.label !== COMPUTED)" :key="label.label" :title="label.label || 'no value'" @click="point(label)"><template #prepend><MarkCoin :mark="label.mark" :colour="label.colour" class="coin" /></template></v-list-item></v-list>
      </v-menu>
      <v-btn class="plain" :disabled="!told" @click="open = highlights.length">{{ highlights.length > 0 ? 'More' : 'Highlight records' }}<kbd>H</kbd></v-btn>
    </h2>
    <p v-if="highlights.length === 0" class="second empty">Point out one label against all others, or whatever meets a condition of your own.</p>
    <ol v-else>
      <li v-for="(highlight, at) in highlights" :key="highlight.name" :class="{ shown: isShown(highlight) }" :data-highlight="highlight.name">
        <button class="plain-button name" type="button" :aria-pressed="isShown(highlight)" :title="highlight.condition" @click="emit('show', isShown(highlight) ? { kind: 'all' } : { kind: 'highlighted', name: highlight.name })">
          <MarkCoin :mark="highlight.mark" :colour="highlight.colour" :size="14" /><b>{{ highlight.name }}</b><span v-if="highlight.on" class="second on">{{ highlight.on }}</span>
        </button>
        <span v-if="told?.records[at] === null" class="trouble gone" title="Neither the gate nor this table has what its condition names. Change it, or remove it.">cannot be read</span>
        <span v-else class="figure records">{{ told?.records[at] === undefined ? '…' : count(told.records[at]!) }} <span class="second part">{{ told?.records[at] === undefined ? '' : share(told.records[at]!, all) }}</span></span>
        <v-menu location="bottom end">
          <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button second more" type="button" :aria-label="`More for ${highlight.name}`">⋯</button></template>
          <v-list density="compact">
            <v-list-item title="Change it" @click="open = at" />
            <v-list-item title="Further up" :disabled="at === 0" @click="move(at, -1)" />
            <v-list-item title="Further down" :disabled="at === highlights.length - 1" @click="move(at, 1)" />
            <v-list-item title="Remove it" @click="remove(at)" />
          </v-list>
        </v-menu>
      </li>
    </ol>
    <HighlightDialog v-if="opened && told" :key="open!" :highlight="opened" :is-new="open === highlights.length" :gate="told.gate" :others="told.others.map(({ name }) => name)" :taken="highlights.filter((_, at) => at !== open).map(({ name }) => name)" :session="session" @keep="keep" @close="open = null" />
  </section>
</template>

<style scoped>
section { display: grid; gap: 3px; align-content: start; }
h2 { display: flex; flex-wrap: wrap; align-items: center; justify-content: flex-end; gap: 0 8px; min-height: 26px; }
.title { margin-right: auto; }
.empty { font-size: 13px; }
ol { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: minmax(0, 1fr) auto 26px; gap: 8px; align-items: center; min-height: 28px; padding: 0 6px; margin: 0 -6px; border-bottom: 1px solid var(--hairline); }
li.shown { background: var(--tint); }
.name { display: flex; align-items: center; gap: 7px; min-height: 26px; min-width: 0; text-align: left; }
.name b { overflow-wrap: anywhere; line-height: 1.25; }
.name:hover b { text-decoration: underline; text-underline-offset: 3px; }
.on { font-size: 12.5px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.records { font-weight: 600; white-space: nowrap; }
.part { display: inline-block; min-width: 52px; text-align: right; font-size: 12.5px; font-weight: 400; }
.gone { font-size: 13px; }
.more { min-height: 26px; }
.coin { margin-right: 8px; }
</style>
