<script setup lang="ts">
/** The end of the course: what the records get that no rule takes. It is asked for, never assumed. */
import type { Entry, RulesGate } from '@dime-gate/core/gate/document'
import { labelGiven } from '@dime-gate/core/gate/entries'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { count, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import EntryField from '../gives/EntryField.vue'
import { entryWords } from './rule-words'

/** @property taken records that no rule takes; null before they are counted */
const props = defineProps<{ gate: RulesGate; taken: number | null; records: number; isChosen: boolean; isOpen: boolean }>()
const emit = defineEmits<{ choose: []; open: []; give: [outcome: number, entry: Entry]; drop: [] }>()

const fields = useTemplateRef<InstanceType<typeof EntryField>[]>('fields')
const entries = computed(() => props.gate.otherwise ?? [])
const look = computed(() => props.gate.outcomes[0]!.labels.find(({ value }) => value === labelGiven(entries.value)))
const others = computed(() => entries.value.slice(1).map(entryWords).filter((words) => words !== ''))
watch(() => props.isOpen, async (isOpen) => {
  if (!isOpen) return
  await nextTick()
  fields.value?.[0]?.focus()
})
</script>

<template>
  <li class="end rest" :class="{ chosen: isChosen }" data-rule="rest">
    <span />
    <button class="plain-button takes" type="button" @click="emit('choose')"><b>{{ gate.otherwise ? 'Otherwise' : 'What no rule takes' }}</b><span v-if="!gate.otherwise" class="second note">gets no label; say what it gets, or leave it so</span></button>
    <div class="gives">
      <template v-if="isOpen">
        <span v-for="(outcome, place) in gate.outcomes" :key="outcome.name" class="given"><span v-if="place > 0" class="second of">{{ outcome.name }}</span><EntryField ref="fields" :entry="entries[place] ?? null" :outcome="outcome" :given="[]" :label="place === 0 ? 'Label of otherwise' : `${outcome.name} of otherwise`" :placeholder="place === 0 ? 'which label?' : 'no value'" @give="emit('give', place, $event)" /></span>
        <button v-if="gate.otherwise" class="plain-button way" type="button" @click="emit('drop')">No label</button>
      </template>
      <button v-else class="plain-button shown" type="button" :aria-label="`${[gate.otherwise ? entryWords(entries[0]) || 'no value' : 'unplaced', ...others].join(', ')}: change what otherwise gives`" @click="emit('open')"><MarkCoin v-if="look" :mark="look.mark" :colour="look.colour" /><b v-if="gate.otherwise">{{ entryWords(entries[0]) || 'no value' }}</b><span v-else class="second asked">unplaced<kbd>O</kbd></span><span v-if="others.length" class="second others">{{ others.join(' · ') }}</span></button>
    </div>
    <span class="counts"><button class="plain-button caught figure" type="button" data-cell="count" :aria-label="`${taken === null ? '…' : count(taken)} records that no rule takes. Show them`" @click="emit('choose')">{{ taken === null ? '…' : count(taken) }}</button><span v-if="taken !== null" class="second part">{{ share(taken, records) }}</span></span>
  </li>
</template>

<style scoped src="./course.css"></style>
