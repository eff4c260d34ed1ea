<script setup lang="ts" generic="Made">
/** A sentence in which words can be changed in place. */
import { number, typedNumber } from './format'
import type { Piece } from './pieces'
import { vStands } from './v-stands'

defineProps<{ pieces: Piece<Made>[] }>()
const emit = defineEmits<{ take: [made: Made] }>()

function typed(event: Event, take: (value: string) => Made, before: string): void {
  const field = event.target as HTMLInputElement
  const value = typedNumber(field.value)
  if (value === null || value.startsWith('-')) field.value = number(before)
  else emit('take', take(value))
}
</script>

<template>
  <p class="sentence">
    <template v-for="(piece, at) in pieces" :key="at">
      <template v-if="typeof piece === 'string'">{{ piece }}</template>
      <v-menu v-else-if="'words' in piece">
        <template #activator="{ props: menu }">
          <button v-bind="menu" class="plain-button word" type="button" :data-choice="piece.label">
            {{ piece.words }}<span class="visually-hidden">, {{ piece.label }}</span>
          </button>
        </template>
        <v-list density="compact" :aria-label="piece.label">
          <v-list-item
            v-for="option in piece.options"
            :key="option.value"
            :active="option.words === piece.words"
            :title="option.words"
            @click="emit('take', piece.take(option.value))"
          />
        </v-list>
      </v-menu>
      <input
        v-else
        class="word number figure"
        v-stands="number(piece.number)"
        :aria-label="piece.label"
        :size="Math.max(2, piece.number.length)"
        maxlength="20"
        @change="typed($event, piece.take, piece.number)"
        @keydown.enter.prevent="($event.target as HTMLInputElement).blur()"
      />
    </template>
  </p>
</template>

<style scoped>
.sentence { font-size: 17px; line-height: 1.6; text-wrap: pretty; }
.word { display: inline; color: var(--pine); font-weight: 600; border-bottom: 1.5px dotted var(--pine); text-align: left; }
.word:hover { background: var(--tint); }
.number { width: auto; padding: 0 2px; background: none; border-width: 0 0 1.5px; font-size: 16px; text-align: right; field-sizing: content; min-width: 18px; }
</style>
