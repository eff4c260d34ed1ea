<script setup lang="ts">
/** One named condition: what it says, how many records it holds for, and who uses it; while it is open, all of it can be changed. */
import { nameTrouble } from '@dime-gate/core/expression/names'
import type { RulesGate, SharedCondition } from '@dime-gate/core/gate/document'
import { NAME_TROUBLE_WORDS } from '@dime-gate/core/gate/gate-problem-words'
import type { UsesOfCondition } from '@dime-gate/core/gate/named-conditions'
import { ALWAYS } from '@dime-gate/core/rule/condition'
import { readCondition, typesIn } from '@dime-gate/core/rule/read-condition'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { count } from '../shared/format'
import { listed } from '../shared/words'
import ConditionField from './ConditionField.vue'
import ConditionWords from './ConditionWords.vue'
import { provideConditionBench, useConditionBench } from './condition-bench'
import type { OtherGate } from './moves-elsewhere'
import { ruleList } from './rule-list'
import type { OnTable } from './subjects'

const props = defineProps<{
  gate: RulesGate
  condition: SharedCondition
  /** Records that it holds for; null before they are counted. */
  holds: number | null
  uses: UsesOfCondition
  others: readonly OtherGate[]
  isOpen: boolean
  isChosen: boolean
  parts: ReadonlyMap<string, number>
  shownPart: string | null
  unfinished: string | null
  /** Names that it cannot have. */
  taken: readonly string[]
  /** Conditions that would need themselves if this one used them. */
  rings: ReadonlySet<string>
}>()
const emit = defineEmits<{
  choose: []
  open: [way: string, part: string]
  close: []
  change: [text: string, on: OnTable, step: string | null]
  unfinished: [text: string | null]
  rename: [name: string]
  show: [way: number[]]
  /** Its text is to stand in its place. */
  inline: []
  name: [way: number[]]
}>()

const outer = useConditionBench()
const { unitOf: _u, isNamed: _n, kindOf: _k, ...shared } = outer
provideConditionBench({ ...shared, subjects: computed(() => outer.subjects.value.filter(({ name }) => !props.rings.has(name))) })

const field = useTemplateRef('field')
const nameField = useTemplateRef('nameField')
const typedName = ref(props.condition.name)
watch(() => props.condition.name, (now) => (typedName.value = now))

const read = computed(() => (props.condition.feel.trim() === '' ? null : readCondition(props.condition.feel, typesIn(props.gate))))
const tree = computed(() => (read.value && 'condition' in read.value ? read.value.condition : ALWAYS))
const usedBy = computed(() => {
  const { rules, conditions } = props.uses
  const here = [...(rules.length > 0 ? [ruleList(rules)] : []), ...conditions.map((name) => `“${name}”`)]
  return here.length === 0 ? '' : listed(here)
})
const nameWrong = computed(() => {
  const name = typedName.value.trim()
  const trouble = nameTrouble(name)
  if (trouble) return `Conditions could not refer to it: ${NAME_TROUBLE_WORDS[trouble] ?? trouble}.`
  return props.taken.includes(name) ? `“${name}” is taken. Choose another name.` : ''
})

function rename(): void {
  const name = typedName.value.trim()
  if (nameWrong.value === '' && name !== props.condition.name) emit('rename', name)
}

/** From the name to what it says. */
async function go(): Promise<void> {
  rename()
  await nextTick()
  field.value?.focus('', 'subject')
}

function point(event: MouseEvent): void {
  const target = event.target as HTMLElement
  const test = target.closest<HTMLElement>('[data-way]')
  emit('open', test?.dataset.way ?? '', target.closest<HTMLElement>('[data-part]')?.dataset.part ?? 'subject')
}

defineExpose({
  focus: (way: string, part: string) => field.value?.focus(way, part),
  focusName: () => nameField.value?.select(),
})
</script>

<template>
  <li class="named" :class="{ chosen: isChosen, open: isOpen }" :data-condition="condition.name">
    <div class="name">
      <template v-if="isOpen">
        <input ref="nameField" v-model="typedName" class="own" aria-label="Name of the condition" maxlength="200" @change="rename" @keydown.enter.prevent.stop="go">
        <p v-if="nameWrong" class="trouble" role="alert">{{ nameWrong }}</p>
      </template>
      <button v-else class="plain-button tag" type="button" @click="emit('choose')">{{ condition.name }}</button>
    </div>
    <div v-if="!isOpen" class="says" @click="point">
      <span v-if="unfinished !== null" class="trouble">not finished: <code>{{ unfinished }}</code></span>
      <span v-else-if="read === null" class="second">says nothing yet: holds for no record</span>
      <ConditionWords v-else :condition="tree" />
    </div>
    <div v-else class="says editing">
      <ConditionField ref="field" :gate="gate" :condition="condition.feel" :label="`What ${condition.name} says`" :parts="parts" :shown-part="shownPart" :unfinished="unfinished" @change="(text, on, step) => emit('change', text, on, step)" @unfinished="emit('unfinished', $event)" @show="emit('show', $event)" @name="emit('name', $event)">
        <template #acts>
          <button class="plain-button way" type="button" :title="usedBy ? 'What it says stands wherever its name stood in this gate' : 'This gate does not carry it any more'" @click="emit('inline')">{{ usedBy ? 'Write it out here' : 'Remove from this gate' }}</button>
          <button class="plain-button way" type="button" @click="emit('close')">Done<kbd>Esc</kbd></button>
        </template>
      </ConditionField>
      <slot />
    </div>
    <div class="users second"><span v-if="usedBy">in {{ usedBy }}</span><span v-else>not used here</span><span v-if="others.length > 0">{{ others.length === 1 ? `and in ${others[0]!.name}` : `and in ${others.length} other gates` }}</span></div>
    <button class="plain-button holds figure" type="button" data-cell="count" :aria-label="`${holds === null ? '…' : count(holds)} records for which ${condition.name} holds. Show them`" @click="emit('choose')">{{ holds === null ? '…' : count(holds) }}</button>
  </li>
</template>

<style scoped>
.named { display: grid; grid-template-columns: 122px minmax(0, 1fr) minmax(110px, 168px) var(--counts, 88px); gap: 0 12px; align-items: center; min-height: 38px; padding: 3px 8px 3px 0; border-bottom: 1px dashed var(--hairline); }
.tag { max-width: 100%; min-height: 26px; padding: 0 6px; font-weight: 700; text-align: left; overflow-wrap: anywhere; border: 1px solid color-mix(in srgb, var(--brass) 60%, transparent); border-radius: 3px; }
.tag:hover { background: var(--tint); }
.name { min-width: 0; }
.own { width: 100%; height: 28px; padding: 0 6px; font: inherit; font-weight: 700; color: var(--ink); background: var(--sheet); border: 1px solid var(--brass); border-radius: 3px; }
.says { min-width: 0; line-height: 1.45; overflow-wrap: anywhere; cursor: pointer; }
.says:not(.editing):hover { background: linear-gradient(90deg, color-mix(in srgb, var(--tint) 55%, transparent), transparent); }
.editing { cursor: default; display: grid; gap: 6px; padding: 2px 0; }
.users { display: grid; font-size: 12.5px; line-height: 1.35; overflow-wrap: anywhere; }
.holds { justify-self: end; font-size: 17px; font-weight: 600; min-height: 24px; }
.holds:hover { text-decoration: underline; }
.way { min-height: 26px; color: var(--pine); font-weight: 600; font-size: 13px; }
.way kbd { margin-left: 5px; }
.chosen { background: linear-gradient(90deg, var(--tint), color-mix(in srgb, var(--tint) 30%, transparent)); }
.open { align-items: start; padding-top: 8px; grid-template-columns: 176px minmax(0, 1fr) minmax(90px, 140px) var(--counts, 88px); }
@media (max-width: 760px) {
  .named, .named.open { grid-template-columns: minmax(0, 1fr) auto; gap: 2px 8px; padding: 8px 4px; }
  .name, .says { grid-column: 1; }
  .users { grid-column: 1; }
  .holds { grid-column: 2; grid-row: 1; }
}
</style>
