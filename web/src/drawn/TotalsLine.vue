<script setup lang="ts">
/** What the figures of a table of groups come to over all of its groups: told apart, since nobody labels it. */
import { totalsSchema } from '@dime-gate/contract/roll-up'
import type { Table } from '@dime-gate/contract/table'
import { ref, watch } from 'vue'
import { ask } from '../shared/api'
import { number, roundedText } from '../shared/format'

const props = defineProps<{ table: Table }>()
const totals = ref<{ name: string; words: string }[]>([])
/** Digits that a total is told with. */
const PLACES = 2

watch(
  () => [props.table.id, props.table.version, props.table.figures],
  async () => {
    const found = await ask(totalsSchema, `/tables/${props.table.id}/totals`).catch(() => [])
    totals.value = found.flatMap(({ column, value }) => {
      const own = props.table.columns.find(({ id }) => id === column)
      return own && value !== null ? [{ name: own.name, words: `${number(roundedText(value, PLACES))}${own.unit ? `\u00a0${own.unit}` : ''}` }] : []
    })
  },
  { immediate: true },
)
</script>

<template>
  <span v-if="totals.length > 0" class="second totals" title="Over all records beneath. It is no group, so no gate gives it a label.">
    All together:
    <span v-for="one in totals" :key="one.name" class="total">{{ one.name }}&nbsp;<b class="figure">{{ one.words }}</b></span>
  </span>
</template>

<style scoped>
.total { display: inline-block; padding-left: 12px; white-space: nowrap; }
</style>
