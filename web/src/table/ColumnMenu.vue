<script setup lang="ts">
/** What can be done with a column: filtered by, hidden, moved, set, removed. */
import type { Filter } from '@dime-gate/contract/change'
import { type Column, type TableProfile, isComputed } from '@dime-gate/contract/table'
import { isOnLine } from '@dime-gate/core/value/read-cell'
import { computed, ref } from 'vue'
import { count } from '../shared/format'
import { cellWords } from './cell-words'
import { noEndWords, typedEnd } from './typed-end'

const props = defineProps<{ column: Column; profile: TableProfile[string] | undefined; canMove: { left: boolean; right: boolean } }>()
const emit = defineEmits<{ filter: [filter: Filter]; hide: []; move: [by: -1 | 1]; widen: [by: number]; settings: []; remove: [] }>()

const isOpen = ref(false)
const low = ref('')
const high = ref('')
const text = ref('')
const wrong = ref('')
const common = computed(() => (props.profile?.spread.kind === 'values' ? props.profile.spread.common : []))

function byRange(): void {
  const [from, to] = [typedEnd(low.value, props.column.type), typedEnd(high.value, props.column.type)]
  const bad = from === undefined ? low.value : to === undefined ? high.value : null
  wrong.value = bad === null ? '' : noEndWords(bad, props.column.type)
  if (bad !== null || (from === null && to === null)) return
  done({ kind: 'range', column: props.column.id, low: from!, high: to! })
}

function byText(): void {
  if (text.value.trim() !== '') done({ kind: 'contains', column: props.column.id, text: text.value.trim() })
}

function done(filter: Filter): void {
  isOpen.value = false
  emit('filter', filter)
}

function then(act: () => void): void {
  isOpen.value = false
  act()
}
</script>

<template>
  <v-menu v-model="isOpen" :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: menu }">
      <button v-bind="menu" class="plain-button opener" type="button" :aria-label="`More on ${column.name}`">⋯</button>
    </template>
    <div class="menu" @keydown.stop>
      <form v-if="isOnLine(column.type)" class="range" @submit.prevent="byRange">
        <span class="second">List from</span>
        <input v-model="low" :aria-label="`${column.name} from`" size="9" />
        <span class="second">to</span>
        <input v-model="high" :aria-label="`${column.name} to`" size="9" />
        <v-btn type="submit">List</v-btn>
      </form>
      <p v-if="wrong" class="trouble" role="alert">{{ wrong }}</p>
      <form class="range" @submit.prevent="byText">
        <span class="second">with the text</span>
        <input v-model="text" :aria-label="`${column.name} with the text`" class="grow" />
        <v-btn type="submit">List</v-btn>
      </form>
      <div v-if="common.length > 0" class="values">
        <button
          v-for="{ value, records } in common"
          :key="value"
          class="plain-button"
          type="button"
          @click="done({ kind: 'values', column: column.id, values: [value] })"
        >
          <span>{{ cellWords([value, null], column) }}</span><b class="figure">{{ count(records) }}</b>
        </button>
      </div>
      <div class="acts">
        <button class="plain-button" type="button" @click="then(() => emit('settings'))">{{ isComputed(column) ? 'How it is computed …' : 'Name, type, unit, what is expected …' }}</button>
        <button class="plain-button" type="button" :disabled="!canMove.left" @click="emit('move', -1)">Move to the left</button>
        <button class="plain-button" type="button" :disabled="!canMove.right" @click="emit('move', 1)">Move to the right</button>
        <button class="plain-button" type="button" @click="emit('widen', 40)">Wider</button>
        <button class="plain-button" type="button" @click="emit('widen', -40)">Narrower</button>
        <button class="plain-button" type="button" @click="then(() => emit('hide'))">Hide</button>
        <button class="plain-button" type="button" @click="then(() => emit('remove'))">Remove the {{ column.feel === null ? 'column' : 'figure' }}</button>
      </div>
    </div>
  </v-menu>
</template>

<style scoped>
.opener { width: 24px; height: 24px; text-align: center; color: var(--second); border-radius: 3px; }
.opener:hover { color: var(--ink); background: var(--ground); }
.menu { display: grid; gap: 8px; width: 330px; padding: 12px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; font-size: 13.5px; }
.range { display: flex; align-items: center; gap: 6px; white-space: nowrap; }
.range input { height: 28px; min-width: 0; padding: 0 6px; font: inherit; color: var(--ink); background: var(--ground); border: 1px solid var(--hairline); border-radius: 3px; }
.grow { flex: 1; }
.values { display: grid; border-top: 1px solid var(--hairline); padding-top: 6px; }
.values button { display: flex; justify-content: space-between; gap: 12px; padding: 2px 4px; min-height: 24px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.values button:hover, .acts button:not(:disabled):hover { background: var(--ground); }
.acts { display: grid; border-top: 1px solid var(--hairline); padding-top: 6px; }
.acts button { padding: 3px 4px; min-height: 26px; }
.acts button:disabled { color: var(--second); opacity: 0.6; cursor: default; }
</style>
