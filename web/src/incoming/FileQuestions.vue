<script setup lang="ts">
/** What only whoever knows the file can say. Each is answered with one click, and nothing is stored before. */
import type { ColumnPlan } from '@dime-gate/interchange/table/settings'
import type { FileLook } from '@dime-gate/contract/table'
import { readDate } from '@dime-gate/core/value/read-date'
import { readPercent } from '@dime-gate/core/value/read-number'
import { count, counted, date, number } from '../shared/format'
import type { Choice } from './file-on-its-way'
import type { Question } from './questions'

const props = defineProps<{ look: FileLook; questions: Question[] }>()
const emit = defineEmits<{ choose: [format: Choice['format']]; edit: [column: number, plan: Partial<ColumnPlan>] }>()

const nameOf = ({ column }: Question) => props.look.settings.columns[column]!.name

function answers(question: Question): { words: string; act: () => void }[] {
  const { text } = question.example
  if (question.kind === 'dates') {
    return (['day', 'month'] as const).map((order) => {
      const read = readDate(text.trim(), order)
      return { words: read.state === 'readable' ? date(read.value) : text, act: () => emit('choose', { dateOrder: order }) }
    })
  }
  return [true, false].map((fraction) => {
    const read = readPercent(text.trim(), props.look.settings.decimalMark, fraction)
    return { words: read.state === 'readable' ? `${number(read.value)} %` : text, act: () => emit('edit', question.column, { fraction }) }
  })
}

function told(question: Question): string {
  if (question.kind === 'dates') return `${question.either === 1 ? 'One date reads' : `${count(question.either)} dates read`} either way round. Which is it?`
  return question.signed === 0
    ? `None of the values has a sign, and none is over 1. Which is it?`
    : `${counted(question.bare, 'value')} without a sign among ${count(question.signed)} with one. Which is it?`
}
</script>

<template>
  <ul class="questions" aria-label="To be decided first">
    <li v-for="question in questions" :key="`${question.kind} ${question.column}`" class="notice">
      <span
        ><b>{{ nameOf(question) }}</b
        >: “{{ question.example.text.trim() }}” in record {{ count(question.example.record) }}. {{ told(question) }}</span
      >
      <span class="answers"
        ><v-btn v-for="answer in answers(question)" :key="answer.words" @click="answer.act">{{ answer.words }}</v-btn></span
      >
    </li>
  </ul>
</template>

<style scoped>
.questions { display: grid; gap: 6px; list-style: none; padding: 0; }
li { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 14px; padding: 6px 12px; }
.answers { display: flex; gap: 8px; }
</style>
