<script setup lang="ts">
/** All tables, each with a way to make a gate on it. */
import type { TableSummary } from '@dime-gate/contract/table'
import { counted } from '../shared/format'
import ItemActions from './ItemActions.vue'

/** @property isManaged whether the shelf stands by itself, with what can be done with its things */
defineProps<{ tables: TableSummary[]; isManaged: boolean }>()
const emit = defineEmits<{ gate: [table: TableSummary]; rename: [table: TableSummary, name: string]; copy: [table: TableSummary]; remove: [table: TableSummary] }>()
</script>

<template>
  <section id="tables" aria-labelledby="tables-title">
    <h2 id="tables-title">Tables <span class="figure">{{ tables.length }}</span></h2>
    <p v-if="tables.length === 0" class="second empty">No table yet. Bring in a CSV or TSV file to begin.</p>
    <div v-for="table in tables" :key="table.id" class="item table" :data-table="table.name">
      <router-link class="name" :to="`/tables/${table.id}`">{{ table.name }}</router-link>
      <button class="plain-button act" type="button" @click="emit('gate', table)">New gate</button>
      <span class="second wide">{{ counted(table.records, 'record') }}, {{ counted(table.columns, 'column') }}<template v-if="table.unreadable > 0">, <span class="trouble">{{ counted(table.unreadable, 'value') }} unreadable</span></template></span>
      <ItemActions v-if="isManaged" :name="table.name" can-rename can-copy @rename="emit('rename', table, $event)" @copy="emit('copy', table)" @remove="emit('remove', table)" />
    </div>
  </section>
</template>

<style scoped src="./shelf.css"></style>
