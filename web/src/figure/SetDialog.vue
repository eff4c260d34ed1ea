<script setup lang="ts">
/** Who is in a set of columns: all of a name, also such as come later, or those that are chosen. */
import { type Column, type SetOfColumns, isComputed } from '@dime-gate/contract/table'
import { membersOfSet } from '@dime-gate/contract/table-figures'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { computed, ref } from 'vue'
import { useReturnFocus } from '../shared/useReturnFocus'

const props = defineProps<{ set: SetOfColumns; columns: Column[] }>()
const emit = defineEmits<{ keep: [set: SetOfColumns]; close: [] }>()
useReturnFocus()

const name = ref(props.set.name)
const kind = ref(props.set.by.kind)
const like = ref(props.set.by.kind === 'names' ? props.set.by.like : '')
const chosen = ref(membersOfSet(props.set, props.columns).map(({ id }) => id))
const candidates = computed(() => props.columns.filter((column) => !isComputed(column) && isNumeric(column.type)))
const by = computed((): SetOfColumns['by'] => (kind.value === 'names' ? { kind: 'names', like: like.value.trim() } : { kind: 'columns', columns: candidates.value.map(({ id }) => id).filter((id) => chosen.value.includes(id)) }))
const members = computed(() => (kind.value === 'names' && like.value.trim() === '' ? [] : membersOfSet({ by: by.value }, props.columns)))

function keep(): void {
  if (name.value.trim() !== '' && members.value.length > 0) emit('keep', { name: name.value.trim(), by: by.value })
}
</script>

<template>
  <v-dialog :model-value="true" max-width="440" :aria-label="`The set ${set.name}`" @update:model-value="emit('close')">
    <v-card class="card">
      <form @submit.prevent="keep">
        <h1>{{ set.name }}, a set of columns</h1>
        <v-text-field v-model="name" label="Name" maxlength="200" autofocus />
        <v-radio-group v-model="kind" hide-details density="compact">
          <v-radio value="names" label="All columns of numbers that are named like this, also later ones" />
          <v-text-field
            v-if="kind === 'names'"
            v-model="like"
            class="like"
            label="Named like"
            placeholder="Module *"
            maxlength="200"
            hint="* stands for whatever may be there"
            persistent-hint
          />
          <v-radio value="columns" label="Those that are chosen here" />
        </v-radio-group>
        <div v-if="kind === 'columns'" class="choices">
          <v-checkbox
            v-for="column in candidates"
            :key="column.id"
            v-model="chosen"
            :value="column.id"
            :label="column.name"
            hide-details
            density="compact"
          />
        </div>
        <p class="second" role="status">
          {{ members.length === 0 ? 'No column is in it so.' : `In it: ${members.map((one) => one.name).join(', ')}.` }}
        </p>
        <footer>
          <v-btn class="primary" type="submit" :disabled="name.trim() === '' || members.length === 0">Keep the set</v-btn>
          <v-btn @click="emit('close')">Cancel</v-btn>
        </footer>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card { padding: 18px 20px; }
form { display: grid; gap: 12px; }
.like { margin: 10px 0 8px 34px; }
.choices { max-height: 220px; overflow: auto; }
footer { display: flex; gap: 10px; }
</style>
