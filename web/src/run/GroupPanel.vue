<script setup lang="ts">
/** How the labels fall in each group: as bars to one scale, or in figures. */
import type { Filter } from '@dime-gate/contract/change'
import { KEY_PARTS } from '@dime-gate/contract/drawn'
import type { Run } from '@dime-gate/contract/run'
import { type RunGroups, runGroupsSchema } from '@dime-gate/contract/run-groups'
import type { TableProfile } from '@dime-gate/contract/table'
import { computed, ref, shallowRef, watch } from 'vue'
import { ask, messageOf } from '../shared/api'
import { count, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { firstGrouping, groupFilter, groupName, groupParts, nextSort, sortedGroups } from './by-group'
import type { RunChoice } from './run-address'

/** @property profile of the table as it is now; empty until it is here */
const props = defineProps<{ run: Run; choice: RunChoice; profile: TableProfile }>()
/** Told once it is here, or cannot be had. */
const emit = defineEmits<{ here: []; choose: [change: Partial<RunChoice>]; show: [filter: Filter, partKey: string | null] }>()

/** As many labels as are told apart beside one another. */
const MOST_KEYS = 8
const PART_WORDS = { whole: 'each day', month: 'each month', year: 'each year' }
const found = shallowRef<RunGroups | null>(null)
const trouble = ref('')
/** Where nothing was chosen, one that tells something. */
const columnId = computed(() => props.choice.by ?? firstGrouping(props.run.columns, (id) => (props.profile[id]?.spread.kind === 'values' ? props.profile[id].spread.distinct : null)))
const column = computed(() => props.run.columns.find(({ id }) => id === columnId.value))
const part = computed(() => (column.value?.type === 'date' ? props.choice.part : 'whole'))

let asked = 0
watch([columnId, part], async () => {
  const mine = ++asked
  trouble.value = ''
  found.value = null
  if (columnId.value === null) return emit('here')
  try {
    const groups = await ask(runGroupsSchema, `/runs/${props.run.id}/groups/${columnId.value}?part=${part.value}`)
    if (mine === asked) found.value = groups
  } catch (error) {
    if (mine === asked) trouble.value = messageOf(error)
  } finally {
    if (mine === asked) emit('here')
  }
}, { immediate: true })

const parts = computed(() => groupParts(found.value?.groups ?? [], props.run.labels, props.run.otherwise))
/** The part whose shares are told. */
const of = computed(() => parts.value.find(({ key }) => key === props.choice.of) ?? parts.value[0])
const rows = computed(() => sortedGroups(found.value?.groups ?? [], props.choice.sort, of.value).map((group) => {
  const filter = groupFilter(group, column.value!, part.value)
  const text = JSON.stringify(filter)
  return {
    key: `${group.value} ${group.isUnreadable}`, group, filter, name: groupName(group, column.value!, part.value), isPlain: group.value === null,
    isShown: props.choice.listing.filters.some((one) => JSON.stringify(one) === text),
  }
}))
const signOf = (by: RunChoice['sort']['by']) => (props.choice.sort.by !== by ? '' : props.choice.sort.direction === 'rising' ? '▲' : '▼')
const sorted = (by: RunChoice['sort']['by']) => (props.choice.sort.by !== by ? undefined : props.choice.sort.direction === 'rising' ? 'ascending' as const : 'descending' as const)
const sortBy = (by: RunChoice['sort']['by']) => emit('choose', { sort: nextSort(props.choice.sort, by) })
/** A heading of figures chooses the part, and turns round what was chosen before. */
function sortByPart(key: string): void {
  const isChosen = key === of.value?.key && props.choice.sort.by === 'share'
  emit('choose', { of: key, sort: isChosen ? nextSort(props.choice.sort, 'share') : { by: 'share', direction: 'falling' } })
}
const partsOf = (name: string) => `${name} of the records`
</script>

<template>
  <section class="groups">
    <div class="choices">
      <v-autocomplete :model-value="columnId" :items="run.columns.map(({ id, name }) => ({ value: id, title: name }))" label="By" density="compact" variant="outlined" hide-details @update:model-value="emit('choose', { by: $event, sort: { by: 'value', direction: 'rising' } })" />
      <v-select v-if="column?.type === 'date'" :model-value="part" :items="KEY_PARTS.map((one) => ({ value: one, title: PART_WORDS[one] }))" label="A group is" density="compact" variant="outlined" hide-details @update:model-value="emit('choose', { part: $event })" />
      <v-autocomplete v-if="parts.length > MOST_KEYS" :model-value="of?.key" :items="parts.map(({ key, name }) => ({ value: key, title: name }))" label="Share of" density="compact" variant="outlined" hide-details auto-select-first data-share @update:model-value="emit('choose', { of: $event })" />
      <div v-else-if="parts.length > 0" class="legend" role="radiogroup" :aria-label="`Whose shares are told`">
        <button v-for="one in parts" :key="one.key" class="plain-button key" :class="{ chosen: one.key === of?.key }" type="button" role="radio" :aria-checked="one.key === of?.key" :title="`Tell the share of “${one.name}”`" @click="emit('choose', { of: one.key })"><MarkCoin v-if="one.mark" :mark="one.mark" :colour="one.colour" /><span v-else class="none" />{{ one.name }}</button>
      </div>
    </div>
    <p v-if="trouble" class="notice problem" role="alert">{{ trouble }}</p>
    <p v-else-if="columnId === null" class="second">Choose a column, and see how the labels fall among its values.</p>
    <p v-else-if="!found" class="second" role="status">Counting …</p>
    <div v-else-if="column" class="scroller" tabindex="0" role="region" :aria-label="`By ${column.name}`">
      <table>
        <thead>
          <tr>
            <th :aria-sort="sorted('value')"><button class="plain-button" type="button" @click="sortBy('value')">{{ column.name }} {{ signOf('value') }}</button></th>
            <th class="right" :aria-sort="sorted('records')"><button class="plain-button" type="button" @click="sortBy('records')">{{ signOf('records') }} Records</button></th>
            <template v-if="choice.shows === 'figures'"><th v-for="one in parts" :key="one.key" class="right wide" :aria-sort="one.key === of?.key ? sorted('share') : undefined"><button class="plain-button" type="button" :title="partsOf(one.name)" @click="sortByPart(one.key)">{{ one.key === of?.key ? signOf('share') : '' }} {{ one.name }}</button></th></template>
            <th v-else><span class="visually-hidden">All parts</span></th>
            <th v-if="choice.shows !== 'figures'" class="right share" :aria-sort="sorted('share')"><button class="plain-button" type="button" :title="partsOf(of?.name ?? '')" @click="sortBy('share')">{{ signOf('share') }} {{ of?.name }}</button></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key" :class="{ shown: row.isShown }" :data-group="row.name">
            <th scope="row"><button class="plain-button" :class="{ plain: row.isPlain }" type="button" :aria-pressed="row.isShown" :title="`Show the records of ${row.name}`" @click="emit('show', row.filter, null)">{{ row.name }}</button></th>
            <td class="right figure">{{ count(row.group.records) }}</td>
            <template v-if="choice.shows === 'figures'">
              <td v-for="one in parts" :key="one.key" class="right figure wide">{{ count(one.recordsOf(row.group)) }} <span class="second">{{ share(one.recordsOf(row.group), row.group.records) }}</span></td>
            </template>
            <td v-else class="bar">
              <span class="parts"><button v-for="one in parts.filter(({ recordsOf }) => recordsOf(row.group) > 0)" :key="one.key" class="plain-button" type="button" tabindex="-1" :style="{ flexGrow: one.recordsOf(row.group), background: one.colour }" :title="`${one.name}: ${count(one.recordsOf(row.group))}, ${share(one.recordsOf(row.group), row.group.records)}`" :aria-label="`${row.name}, ${one.name}: ${count(one.recordsOf(row.group))}`" @click="emit('show', row.filter, one.key)" /></span>
            </td>
            <td v-if="choice.shows !== 'figures'" class="right figure share">{{ of ? share(of.recordsOf(row.group), row.group.records) : '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.groups { display: grid; grid-template-rows: auto minmax(0, 1fr); gap: 8px; min-height: 0; align-content: start; }
.choices { display: flex; align-items: center; gap: 8px 14px; }
.choices > .v-input { flex: none; width: 172px; }
.legend { display: flex; flex: 1; flex-wrap: wrap; gap: 0 12px; max-height: 52px; overflow-y: auto; font-size: 13px; }
.key { display: inline-flex; align-items: center; gap: 5px; min-height: 24px; color: var(--second); border-bottom: 2px solid transparent; }
.key.chosen { color: var(--ink); font-weight: 700; border-bottom-color: var(--brass); }
.none { width: 11px; height: 11px; border-radius: 2px; background: var(--none); }
.choices, .scroller { --none: color-mix(in srgb, var(--second) 42%, var(--ground)); }
.scroller { overflow: auto; min-height: 0; }
table { width: 100%; border-collapse: collapse; font-size: 13.5px; }
thead th { position: sticky; top: 0; z-index: 1; background: var(--ground); color: var(--second); font-size: 13px; font-weight: 600; white-space: nowrap; }
th, td { text-align: left; padding: 0 10px 0 0; height: 27px; border-bottom: 1px solid var(--hairline); }
.right { text-align: right; white-space: nowrap; }
tbody th { font-weight: 400; max-width: 150px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
tbody th button { width: 100%; min-height: 25px; overflow: hidden; text-overflow: ellipsis; }
tbody th button:hover { text-decoration: underline; text-underline-offset: 3px; }
tbody .plain { color: var(--second); font-style: italic; }
tr.shown { background: var(--tint); }
tr.shown th button { font-weight: 700; }
.wide { padding-left: 14px; }
.wide .second { display: inline-block; min-width: 52px; }
.bar { width: 45%; min-width: 120px; }
.parts { display: flex; height: 14px; gap: 1px; }
.parts button { flex-basis: 0; min-width: 2px; height: 14px; }
.parts button:hover { outline: 2px solid var(--brass); outline-offset: 0; }
.share { font-weight: 600; max-width: 130px; padding-right: 2px; }
.share button { max-width: 100%; overflow: hidden; text-overflow: ellipsis; }
@media (max-width: 640px) { .choices { flex-wrap: wrap; } .legend { flex-basis: 100%; } }
</style>
