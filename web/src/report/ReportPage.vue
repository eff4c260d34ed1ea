<script setup lang="ts">
/** A run as a report that can be signed: what was decided, and how; counts, exceptions with what became of them, and where all of it comes from. Light paper, whatever the theme is. */
import { columnsBound } from '@dime-gate/contract/binding'
import { gatesAsked } from '@dime-gate/contract/question'
import { highlightGate, otherColumns } from '@dime-gate/core/highlight/highlight'
import { parseDate } from '@dime-gate/core/value/temporal'
import type { KeyPart } from '@dime-gate/contract/drawn'
import { computed, onMounted, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { conditionWordsOf } from '../conditions/sentence-words'
import { useCommands } from '../finder/commands'
import { cameTo, expectationWords, isMissed } from '../expectation/expectation-words'
import { KIND_WORDS, markWords, whoOf, whyHere } from '../review/exception-words'
import { groupName, groupParts, sortedGroups } from '../run/by-group'
import { byHandWords, countsByHand, labelByHand } from '../run/by-hand'
import { chartSvg } from '../run/chart-picture'
import { unlessAway } from '../shared/connection'
import { count, counted, date, moment, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { useMaking } from '../shared/useMaking'
import { useTitle } from '../shared/useTitle'
import { runTitle } from '../shared/words'
import { plainParts } from '../showing/plain-words'
import { addressOf, queryOf, type Paper, type ReportAddress, SECTION_WORDS, SECTIONS, type Section } from './report-address'
import { mustKnow } from './must-know'
import { useReport } from './useReport'

const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const address = computed(() => addressOf(route.query))
const choose = (change: Partial<ReportAddress>) => void router.replace({ query: queryOf({ ...address.value, ...change }) })
const { run, checks, overrides, highlights, groups, exceptions, waiting, checksum, trouble, isReady, load, group } = useReport(props.id)

onMounted(load)
watch(() => [run.value, address.value.by, address.value.part], () => run.value && group(address.value), { immediate: true })
useTitle(() => run.value && `Report: ${runTitle(run.value)}`)
const print = () => window.print()
const { making, make, stop } = useMaking()
/** The report as it stands in this page's address. */
const makePdf = () => make('report', `/runs/${props.id}/report.pdf?${new URLSearchParams({ ...queryOf(address.value), zone: Intl.DateTimeFormat().resolvedOptions().timeZone })}`)
useCommands([
  { words: 'Make it a PDF', key: 'p', act: () => void makePdf(), isOff: () => !isReady.value || making.value !== '' },
  { words: 'Print it from the browser', act: print, isOff: () => !isReady.value },
])
const PAPER_WORDS = [{ value: 'a4', title: 'A4' }, { value: 'letter', title: 'US letter' }]

const shows = (section: Section) => !address.value.without.includes(section)
const toggle = (section: Section) => choose({ without: shows(section) ? [...address.value.without, section] : address.value.without.filter((one) => one !== section) })
const decided = computed(() => (run.value ? plainParts(run.value.gate) : null))
/** Conditions of highlights look at more than the gate does. */
const conditionWords = computed(() => {
  const { asOf, columns, binding, gate } = run.value!
  const asked = gatesAsked(run.value!)
  if ('problems' in asked) return conditionWordsOf(gate)
  const [ready, today] = [asked.gates.at(-1)!, parseDate(asOf)!]
  return conditionWordsOf(highlightGate(ready, highlights.value, today, otherColumns(ready, today, columns, Object.values(binding).flatMap(columnsBound))))
})
const labelOutcome = computed(() => run.value!.gate.outcomes[0]!.name)
/** In label order; what has no label behind. */
const parts = computed(() => {
  const { labels, otherwise, counts } = run.value!
  const of = (['unplaced', 'held', 'contested'] as const).flatMap((kind) => (counts[kind] > 0 ? [{ name: kind, colour: '#b9b6a9', records: counts[kind] }] : []))
  const given = labels.filter(({ label, records }) => records > 0 || label !== otherwise?.label).map(({ label, colour, records }) => ({ name: label || 'no value', colour, records }))
  return [...given, ...(otherwise ? [{ name: `otherwise: ${otherwise.label}`, colour: otherwise.colour, records: counts.otherwise }] : []), ...of]
})
const chart = computed(() => chartSvg({ title: 'Counts by label', about: '', records: run.value!.counts.records, parts: parts.value }))
const known = computed(() => mustKnow(run.value!, checks.value, overrides.value, waiting.value))
const column = computed(() => run.value?.columns.find(({ id }) => id === address.value.by))
const columns = computed(() => [{ value: null, title: 'by no group' }, ...(run.value?.columns ?? []).map(({ id, name }) => ({ value: id, title: `by ${name}` }))])
const groupRows = computed(() => (groups.value ? sortedGroups(groups.value.groups, { by: 'value', direction: 'rising' }, undefined) : []))
const ofGroups = computed(() => (groups.value ? groupParts(groups.value.groups, run.value!.labels, run.value!.otherwise) : []))
const byHand = computed(() => new Map(overrides.value.map((one) => [one.record, one])))
const whoByRecord = computed(() => new Map((exceptions.value?.listed ?? []).map((one) => [one.record, whoOf(one)])))
const wasWords = ({ was }: { was: (typeof overrides.value)[number]['was'] }) => (was.kind === 'label' ? was.label || 'no value' : was.kind)
const PARTS = [{ value: 'whole', title: 'each day' }, { value: 'month', title: 'each month' }, { value: 'year', title: 'each year' }]
</script>

<template>
  <p v-if="trouble" class="notice problem" role="alert">{{ unlessAway(trouble) }} <v-btn class="plain" @click="load">Try again</v-btn></p>
  <section v-if="run" class="report">
    <div class="choices">
      <b>Report</b>
      <v-checkbox v-for="section in SECTIONS" :key="section" :model-value="shows(section)" :label="SECTION_WORDS[section]" density="compact" hide-details @update:model-value="toggle(section)" />
      <v-select :model-value="address.by" :items="columns" density="compact" variant="outlined" hide-details aria-label="Group" class="by" @update:model-value="choose({ by: $event })" />
      <v-select v-if="column?.type === 'date'" :model-value="address.part" :items="PARTS" density="compact" variant="outlined" hide-details aria-label="Part of the date" class="by" @update:model-value="choose({ part: $event as KeyPart })" />
      <v-select :model-value="address.paper" :items="PAPER_WORDS" density="compact" variant="outlined" hide-details aria-label="Paper" class="size" @update:model-value="choose({ paper: $event as Paper })" />
      <v-btn v-if="making" @click="stop">Making the PDF … stop</v-btn>
      <v-btn v-else class="primary" :disabled="!isReady" @click="makePdf">Make a PDF<kbd>P</kbd></v-btn>
      <v-btn :disabled="!isReady" @click="print">Print</v-btn>
      <router-link :to="`/runs/${id}`">To the run</router-link>
    </div>
    <article class="paper" :data-ready="(isReady && (!column || groups !== null)) || undefined">
      <header>
        <h1>{{ run.gate.name }}</h1>
        <p>{{ run.tableName }}, as of {{ date(run.asOf) }} · {{ runTitle(run) }}</p>
      </header>
      <section v-if="known.length > 0" class="known"><h2>What the reader must know</h2><ul><li v-for="line in known" :key="line">{{ line }}</li></ul></section>
      <section v-if="shows('decided') && decided" data-section="decided">
        <h2>{{ SECTION_WORDS.decided }}</h2>
        <p v-for="line in decided.before.slice(1)" :key="line">{{ line }}</p>
        <ol><li v-for="(line, at) in decided.rules" :key="at">{{ line }}</li></ol>
        <p>{{ decided.rest }}</p><p v-for="line in decided.after" :key="line">{{ line }}</p>
      </section>
      <section v-if="shows('counts')" data-section="counts">
        <h2>{{ SECTION_WORDS.counts }}</h2>
        <!-- eslint-disable-next-line vue/no-v-html -- made here, every text in it escaped -->
        <div class="chart" v-html="chart" />
        <table><thead><tr><th>Label</th><th class="right">Records</th><th class="right">Share</th></tr></thead>
          <tbody><tr v-for="part in parts" :key="part.name" :data-label="part.name"><th>{{ part.name }}</th><td class="right">{{ count(part.records) }}</td><td class="right">{{ share(part.records, run.counts.records) }}</td></tr></tbody>
          <tfoot><tr><th>All records</th><td class="right">{{ count(run.counts.records) }}</td><td /></tr></tfoot></table>
        <p v-if="overrides.length > 0">With what was given by hand: {{ byHandWords(countsByHand(run.labels, overrides, labelOutcome)) }}.</p>
      </section>
      <section v-if="shows('groups') && column" data-section="groups">
        <h2>By {{ column.name }}</h2>
        <table v-if="groups"><thead><tr><th>{{ column.name }}</th><th class="right">Records</th><th v-for="part in ofGroups" :key="part.key" class="right">{{ part.name }}</th></tr></thead>
          <tbody><tr v-for="(one, at) in groupRows" :key="at"><th>{{ groupName(one, column, groups.part) }}</th><td class="right">{{ count(one.records) }}</td><td v-for="part in ofGroups" :key="part.key" class="right">{{ count(part.recordsOf(one)) }}</td></tr></tbody></table>
      </section>
      <section v-if="shows('expected') && checks.length > 0" data-section="expected">
        <h2>{{ SECTION_WORDS.expected }}</h2>
        <table><tbody><tr v-for="check in checks" :key="check.id"><th>{{ isMissed(check) ? 'missed' : check.problem ? 'not there' : 'met' }}</th><td>{{ expectationWords(check.expectation, run.columns) }}</td><td class="right">{{ cameTo(check) }}</td></tr></tbody></table>
      </section>
      <section v-if="shows('highlights') && highlights.length > 0" data-section="highlights">
        <h2>{{ SECTION_WORDS.highlights }}</h2>
        <table><tbody><tr v-for="one in highlights" :key="one.name"><th><MarkCoin :mark="one.mark" :colour="one.colour" :size="14" /> {{ one.name }}</th><td>{{ conditionWords(one.condition) }}</td><td class="right">{{ count(one.records) }}</td><td class="right">{{ share(one.records, run.counts.records) }}</td></tr></tbody></table>
      </section>
      <section v-if="shows('by hand') && overrides.length > 0" data-section="by hand">
        <h2>{{ SECTION_WORDS['by hand'] }}</h2>
        <table><thead><tr><th>Record</th><th>Gate gave</th><th>By hand</th><th>Because</th></tr></thead>
          <tbody><tr v-for="one in overrides" :key="one.record"><th>{{ whoByRecord.get(one.record) ?? one.record }}</th><td>{{ wasWords(one) }}</td><td>{{ labelByHand(one, labelOutcome) ?? 'as it was' }}</td><td>{{ one.note }}<template v-if="one.by"> ({{ one.by }})</template></td></tr></tbody></table>
      </section>
      <section v-if="shows('exceptions') && exceptions" data-section="exceptions">
        <h2>{{ SECTION_WORDS.exceptions }} <span class="number">{{ count(exceptions.all) }}</span></h2>
        <p v-if="exceptions.all > exceptions.listed.length">The first {{ count(exceptions.listed.length) }} are listed.</p>
        <table v-if="exceptions.listed.length > 0"><thead><tr><th>Record</th><th>Kind</th><th>Why</th><th>What became of it</th></tr></thead>
          <tbody><tr v-for="one in exceptions.listed" :key="one.record"><th>{{ whoOf(one) }}</th><td>{{ KIND_WORDS[one.kind].name.toLowerCase() }}</td><td>{{ whyHere(one, run) }}</td><td>{{ one.mark ? markWords(one) : byHand.has(one.record) ? '' : 'open' }}</td></tr></tbody></table>
      </section>
      <section v-if="shows('provenance')" data-section="provenance">
        <h2>{{ SECTION_WORDS.provenance }}</h2>
        <table><tbody>
          <tr><th>Gate</th><td>{{ run.gate.name }}, version {{ run.gateVersion }}<template v-for="{ gate, version } in run.feeding" :key="gate.name">; fed by {{ gate.name }}, version {{ version }}</template></td></tr>
          <tr><th>Table</th><td>{{ run.tableName }}, version {{ run.tableVersion }}, {{ counted(run.counts.records, 'record') }}</td></tr>
          <tr><th>Looks at</th><td>{{ run.seen.map((id) => run!.columns.find((one) => one.id === id)?.name).filter(Boolean).join(', ') }}</td></tr>
          <tr><th>As of</th><td>{{ date(run.asOf) }}, {{ run.isAsOfAsked ? 'as it was asked for' : 'the date that counted everywhere' }}</td></tr>
          <tr><th>Kept</th><td>{{ moment(run.keptAt) }}, run {{ run.number }}</td></tr>
          <tr v-if="checksum"><th>Checksum</th><td class="sum">SHA-256 of the labelled table as CSV: {{ checksum }}</td></tr>
        </tbody></table>
        <p class="sign"><span>Date</span><span>Signed</span></p>
      </section>
    </article>
  </section>
  <p v-else-if="!trouble" class="second opening" role="status">Making the report …</p>
</template>

<style scoped>
.report { display: grid; justify-items: center; gap: 18px; padding: 14px 20px 60px; }
.choices { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 14px; width: 100%; }
.by { flex: none; width: 190px; }
.size { flex: none; width: 120px; }
.opening { padding: 40px 20px; }
.paper { width: min(100%, 190mm); padding: 16mm 14mm; background: #fff; color: #1c2a2b; border: 1px solid var(--hairline); font-size: 14px; line-height: 1.45; overflow-x: auto; }
.paper :is(h1, h2, th, td, p, li) { color: #1c2a2b; }
.paper h1 { font-size: 26px; }
.paper h2 { margin: 18px 0 6px; padding-bottom: 3px; border-bottom: 1.5px solid #1c2a2b; font-size: 16px; font-weight: 700; break-after: avoid; }
.number { font-weight: 400; }
.known { padding: 2px 14px 10px; margin: 14px 1px 0; border: 1.5px solid #a03a28; }
.known h2 { margin-top: 8px; border: 0; color: #a03a28; }
ul, ol { margin: 4px 0; padding-left: 22px; }
table { width: 100%; border-collapse: collapse; margin: 6px 0; font-variant-numeric: tabular-nums; }
th, td { padding: 3px 10px 3px 0; text-align: left; vertical-align: top; border-bottom: 1px solid #dcd5c3; overflow-wrap: anywhere; }
thead { display: table-header-group; }
tr { break-inside: avoid; }
.right { text-align: right; }
.chart { overflow: hidden; }
/* The picture begins with a title of its own, which stands above it here. */
.chart :deep(svg) { width: 100%; height: auto; margin-top: -8.4%; }
.chart :deep(text) { font-family: inherit; }
.chart :deep(svg > rect:first-child) { fill: #fff; }
.paper [data-section=provenance] th { white-space: nowrap; }
.sum { font-family: var(--figures); font-size: 12px; }
.sign { display: flex; gap: 40px; margin-top: 46px; }
.sign span { flex: 1; padding-top: 4px; border-top: 1px solid #1c2a2b; font-size: 13px; }
@media print {
  .choices { display: none; }
  .report { display: block; padding: 0; }
  .paper { width: auto; padding: 0; border: 0; overflow: visible; }
}
</style>
<style>
@page { margin: 16mm 14mm 18mm; @bottom-right { content: counter(page) " of " counter(pages); font: 12px 'Atkinson Hyperlegible Next', sans-serif; color: #56625f; } }
@media print {
  .v-application .top, .v-application .away, .v-overlay-container { display: none !important; }
}
</style>
