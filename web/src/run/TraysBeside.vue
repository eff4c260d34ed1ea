<script setup lang="ts">
/** Runs of one gate beside one another, each a row of its trays to the same scale. */
import type { RunSummary } from '@dime-gate/contract/run'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import { computed } from 'vue'
import { count, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'

const props = defineProps<{ runs: (RunSummary & { counts: NonNullable<RunSummary['counts']> })[] }>()

const parts = computed(() => {
  const labels = props.runs.flatMap(({ labels: own }) => own).filter(({ label }, at, all) => all.findIndex((one) => one.label === label) === at)
  const others = AFTER_RULES.filter((kind) => props.runs.some(({ counts }) => counts[kind] > 0))
  return [
    ...labels.map(({ label, colour, mark }) => ({ key: `label ${label}`, name: label || 'no value', colour, mark, of: (run: (typeof props.runs)[number]) => run.labels.find((one) => one.label === label)?.records ?? 0, tray: { kind: 'label', label } })),
    ...others.map((kind) => {
      const look = kind === 'otherwise' ? (props.runs.find(({ otherwise }) => otherwise)?.otherwise ?? null) : null
      return { key: kind, name: look ? `otherwise: ${look.label}` : kind, colour: look?.colour ?? 'color-mix(in srgb, var(--second) 42%, var(--ground))', mark: look?.mark ?? null, of: (run: (typeof props.runs)[number]) => run.counts[kind], tray: { kind } }
    }),
  ]
})
</script>

<template>
  <div class="scroller" tabindex="0" role="region" aria-label="Trays of each table">
    <table>
      <thead>
        <tr>
          <th>Table</th><th class="right">Records</th><th><span class="visually-hidden">All parts</span></th>
          <th v-for="part in parts" :key="part.key" class="right"><span class="part"><MarkCoin v-if="part.mark" :mark="part.mark" :colour="part.colour" :size="12" />{{ part.name }}</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="run in runs" :key="run.id" :data-beside="run.tableName">
          <th scope="row"><router-link :to="`/runs/${run.id}`">{{ run.tableName }}</router-link><span class="second"> run {{ run.number }}</span></th>
          <td class="right figure all">{{ count(run.counts.records) }}</td>
          <td class="bar"><span class="shares" aria-hidden="true"><span v-for="part in parts" :key="part.key" :style="{ flexGrow: part.of(run), background: part.colour }" :class="{ none: part.of(run) === 0 }" /></span></td>
          <td v-for="part in parts" :key="part.key" class="right figure one"><span class="key" :title="part.name"><MarkCoin v-if="part.mark" :mark="part.mark" :colour="part.colour" :size="12" /><span class="second">{{ part.name }}</span></span> <router-link :to="{ path: `/runs/${run.id}`, query: { tray: JSON.stringify(part.tray) } }"><b>{{ count(part.of(run)) }}</b></router-link> <span class="second share">{{ share(part.of(run), run.counts.records) }}</span></td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroller { overflow: auto; container-type: inline-size; }
.key { display: none; align-items: center; gap: 5px; }
table { width: 100%; border-collapse: collapse; font-size: 14px; }
th, td { text-align: left; padding: 6px 14px 6px 0; border-bottom: 1px solid var(--hairline); white-space: nowrap; }
thead th { font-size: 13px; color: var(--second); font-weight: 600; }
tbody th { font-weight: 600; }
.right { text-align: right; }
.part { display: inline-flex; align-items: center; gap: 5px; }
.bar { width: 30%; min-width: 160px; }
.shares { display: flex; gap: 1px; height: 16px; }
.shares > span { flex-basis: 0; min-width: 2px; }
.shares > .none { min-width: 0; display: none; }
/* Where there is no room for a column a label, a table is a block of its own: all labels to one scale, and under them what each has. */
@container (max-width: 760px) {
  thead { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  tbody :is(th, td) { padding: 0; border: 0; }
  tbody .bar { grid-column: 1 / -1; width: auto; padding: 5px 0 3px; }
  tbody tr { display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 215px), 1fr)); gap: 0 18px; padding: 8px 0; border-bottom: 1px solid var(--hairline); }
  tbody .one { display: flex; gap: 8px; align-items: baseline; min-width: 0; }
  tbody .one a { display: inline-block; min-width: 24px; line-height: 24px; }
  tbody .all { grid-column: -2; }
  tbody .key { display: inline-flex; min-width: 0; flex: 1; font-family: var(--text); }
  tbody .all::after { content: ' records'; font-family: var(--text); color: var(--second); }
  tbody .share { min-width: 54px; }
  tbody .key .second { overflow: hidden; text-overflow: ellipsis; }
}
a { color: var(--ink); text-decoration: none; }
a:hover { text-decoration: underline; text-underline-offset: 3px; }
</style>
