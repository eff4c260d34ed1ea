<script setup lang="ts">
/** What is said of a column: of one that is there, or of a new one. */
import type { Column } from '@dime-gate/contract/table'
import { COLUMN_TYPES, type ColumnType, isNumeric, isOnLine } from '@dime-gate/core/value/read-cell'
import { computed, ref } from 'vue'
import { date, number, typedNumber } from '../shared/format'
import { useReturnFocus } from '../shared/useReturnFocus'
import { TYPE_WORDS } from '../shared/words'
import { noEndWords, typedEnd } from '../listing/typed-end'

export interface ColumnSettings {
  name: string
  unit: string
  type: ColumnType
  fullMarks: string | null
  isIdentity: boolean
  expectedLow: string | null
  expectedHigh: string | null
}

/** @property column null for a new one */
const props = defineProps<{ column: Column | null }>()
const emit = defineEmits<{ keep: [settings: ColumnSettings]; close: [] }>()
useReturnFocus()

const shown = (text: string | null | undefined) => (text ? (props.column?.type === 'date' ? date(text) : number(text)) : '')
const name = ref(props.column?.name ?? '')
const unit = ref(props.column?.unit ?? '')
const type = ref<ColumnType>(props.column?.type ?? 'number')
const fullMarks = ref(shown(props.column?.fullMarks))
const isIdentity = ref(props.column?.isIdentity ?? false)
const low = ref(shown(props.column?.expectedLow))
const high = ref(shown(props.column?.expectedHigh))
const TYPES = COLUMN_TYPES.map((value) => ({ title: TYPE_WORDS[value], value }))

const wrong = computed(() => {
  const ends = isOnLine(type.value) ? [low.value, high.value] : []
  for (const typed of ends) if (typedEnd(typed, type.value) === undefined) return noEndWords(typed, type.value)
  if (isNumeric(type.value) && fullMarks.value.trim() !== '' && !(Number(typedNumber(fullMarks.value)) > 0)) return 'Full marks are a number above 0.'
  return ''
})

function keep(): void {
  if (name.value.trim() === '' || wrong.value) return
  emit('keep', {
    name: name.value.trim(), unit: unit.value.trim(), type: type.value, isIdentity: isIdentity.value,
    fullMarks: isNumeric(type.value) && fullMarks.value.trim() !== '' ? typedNumber(fullMarks.value) : null,
    expectedLow: isOnLine(type.value) ? typedEnd(low.value, type.value)! : null, expectedHigh: isOnLine(type.value) ? typedEnd(high.value, type.value)! : null,
  })
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="440"
    :aria-label="column ? `The column ${column.name}` : 'A new column'"
    @update:model-value="emit('close')"
  >
    <v-card class="card">
      <form @submit.prevent="keep">
        <h1>{{ column ? column.name : 'A new column' }}</h1>
        <v-text-field v-model="name" label="Name" maxlength="200" autofocus />
        <div class="pair">
          <v-select v-model="type" label="Type" :items="TYPES" />
          <v-text-field v-model="unit" label="Unit" maxlength="40" />
        </div>
        <p v-if="column && type !== column.type" class="second">
          Every text of the column is read anew as {{ TYPE_WORDS[type] }}. What does not fit is kept as it is written, and counted.
        </p>
        <div v-if="isOnLine(type)" class="pair">
          <v-text-field v-model="low" label="Expected from" :placeholder="type === 'date' ? '1 Jan 2000' : '0'" maxlength="40" />
          <v-text-field v-model="high" label="to" :placeholder="type === 'date' ? '2 Mar 2026' : '100'" maxlength="40" />
        </div>
        <v-text-field v-if="isNumeric(type)" v-model="fullMarks" label="Full marks: the most that can be reached" maxlength="20" />
        <v-checkbox
          v-if="column"
          v-model="isIdentity"
          label="Tells who the record is: stays in view, and finds it again"
          hide-details
          density="compact"
          color="primary"
        />
        <p v-if="wrong" class="notice problem" role="alert">{{ wrong }}</p>
        <footer>
          <v-btn class="primary" type="submit" :disabled="name.trim() === '' || wrong !== ''">{{ column ? 'Keep' : 'Add it' }}</v-btn>
          <v-btn @click="emit('close')">Cancel</v-btn>
        </footer>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card { padding: 18px 20px; }
form { display: grid; gap: 12px; }
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; }
footer { display: flex; gap: 10px; }
</style>
