<script setup lang="ts">
/** The exception in hand: who it is, what it got and why, where it lies, what it got before, and what became of it. */
import { columnsBound } from '@dime-gate/contract/binding'
import type { Run } from '@dime-gate/contract/run'
import { type Cell, isComputed } from '@dime-gate/contract/table'
import { isLineScale } from '@dime-gate/core/gate/scale-gate'
import { inputsOf } from '@dime-gate/core/result/exception'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { textOfValue } from '@dime-gate/core/value/value-text'
import { computed } from 'vue'
import { tryOut, typedRecord } from '../bench/trial'
import { trialWords } from '../bench/trial-words'
import WhyWalk from '../bench/WhyWalk.vue'
import { placeWords } from '../comparison/comparison-words'
import type { Place } from '../comparison/flows'
import { labelByHand } from '../run/by-hand'
import type { useRecordInRun } from '../run/useRecordInRun'
import { counted, date, moment } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { isTrouble, runTitle, withUnit } from '../shared/words'
import { listedWords } from '../table/cell-words'
import { KIND_WORDS, markWords, whoOf, whyHere } from './exception-words'
import PlaceOnLine from './PlaceOnLine.vue'
import type { InHand } from './SettleBar.vue'

const props = defineProps<{ exception: InHand; run: Run; seen: ReturnType<typeof useRecordInRun> }>()

const { then, now, history, trouble } = props.seen
const question = computed(() => ({ gate: props.run.gate, inputs: props.run.binding, feeding: props.run.feeding }))
const trial = computed(() => (then.value ? tryOut(question.value, typedRecord(question.value, props.run.columns, then.value), props.run.asOf) : null))
const labels = computed(() => [...props.run.labels, ...(props.run.otherwise ? [props.run.otherwise] : [])])
const lookOf = (label: string | null) => labels.value.find((one) => one.label === label)
const lookAt = (place: Place) => (place?.kind === 'label' ? lookOf(place.label) : undefined)
const overridden = computed(() => (props.exception.state === 'overridden' ? labelByHand({ outcomes: props.exception.mark!.outcomes ?? {} }, props.run.gate.outcomes[0]!.name) : undefined))
const got = computed(() => (props.exception.landing.kind === 'label' ? props.exception.landing.label : null))
const cellOf = (id: number): Cell | undefined => then.value?.[props.run.columns.findIndex((column) => column.id === id)]
const identity = computed(() => { const own = props.run.columns.filter(({ isIdentity }) => isIdentity); return own.length > 0 ? own : props.run.columns.slice(0, 1) })
const who = computed(() => whoOf(props.exception))
/** A few of what else is known of it, so that people know whom they have before them. */
const MOST_ASIDE = 3
const aside = computed(() => props.run.columns.filter((column) => !identity.value.includes(column) && !props.run.seen.includes(column.id) && column.type === 'text').slice(0, MOST_ASIDE).map((column) => cellOf(column.id)?.[0]).filter(Boolean).join(', '))
const about = computed(() => inputsOf(props.exception.reasons, props.run.gate.inputs.map(({ name }) => name)))
/** In canonical text; null for a blank. */
const onLine = computed(() => {
  const { gate } = props.run
  const value = isLineScale(gate) ? (trial.value?.why.inputs.find(({ name }) => name === gate.on)?.value ?? null) : null
  return value === null ? null : textOfValue(value)
})
/** Where the values of all others lie; null where they were computed on the way. */
const seenOnLine = computed(() => {
  const { gate, binding, id, columns } = props.run
  const bound = isLineScale(gate) ? binding[gate.on] : undefined
  const column = bound && 'column' in bound ? columns.find((one) => one.id === bound.column) : undefined
  return column && isNumeric(column.type) ? { runId: id, column: column.id } : null
})
/** What the gate looked at, and whatever of the rest is another now. */
const values = computed(() => {
  const looked = new Set(about.value.flatMap((name) => (props.run.binding[name] ? columnsBound(props.run.binding[name]) : [])))
  return props.run.columns.flatMap((column) => {
    const is = listedWords(cellOf(column.id), column)
    const found = now.value?.get(column.id)
    const today = found ? listedWords(found, column) : null
    const isOther = today !== null && today !== is && !isComputed(column)
    return props.run.seen.includes(column.id) || isOther ? [{ id: column.id, name: withUnit(column.name, column.unit), is, today: isOther ? today : null, isAbout: looked.has(column.id) }] : []
  }).toSorted((one, other) => Number(other.isAbout) - Number(one.isAbout))
})
const before = computed(() => history.value.filter(({ runId }) => runId !== props.run.id))
</script>

<template>
  <article class="panel">
    <header>
      <h2>{{ who }}</h2><span class="second aside">{{ aside }}</span>
      <router-link class="run" :to="{ path: `/runs/${run.id}` }">{{ runTitle(run) }}</router-link>
    </header>
    <p class="gets">
      <template v-if="overridden !== undefined"><s class="second"><MarkCoin v-if="lookOf(got)" :mark="lookOf(got)!.mark" :colour="lookOf(got)!.colour" :size="14" /> {{ got ?? exception.landing.kind }}</s> <MarkCoin v-if="lookOf(overridden)" :mark="lookOf(overridden)!.mark" :colour="lookOf(overridden)!.colour" /> <b>{{ overridden ?? 'nothing' }}</b> <span class="second">by hand</span></template>
      <template v-else><MarkCoin v-if="lookOf(got)" :mark="lookOf(got)!.mark" :colour="lookOf(got)!.colour" /> <b>{{ got ?? exception.landing.kind }}</b></template>
      <span class="reason" :class="{ trouble: exception.reasons.some(isTrouble) }">{{ whyHere(exception, run) }}</span>
    </p>
    <p v-if="exception.mark" class="told" :class="exception.state" role="status"><b>{{ exception.state === 'lapsed' ? KIND_WORDS.lapsed.name : '' }}</b> {{ markWords(exception) }} <span class="second">{{ moment(exception.mark.at) }}</span></p>
    <p v-if="trial && got !== null && !exception.reasons.some(({ kind }) => kind === 'edge') && trialWords(trial, run.gate)" class="second">{{ trialWords(trial, run.gate) }}</p>
    <WhyWalk v-if="trial" :why="trial.why" :gate="run.gate" class="walk" />
    <PlaceOnLine v-if="isLineScale(run.gate) && onLine !== null" :gate="run.gate" :value="onLine" :who="who" :seen="seenOnLine" />
    <dl>
      <div v-for="value in values" :key="value.id" :class="{ about: value.isAbout }" :data-value="value.name">
        <dt>{{ value.name }}</dt><dd>{{ value.is }}<span v-if="value.today !== null" class="now">now {{ value.today }}</span></dd>
      </div>
    </dl>
    <p v-if="now === null" class="second">It is not in the table any more.</p>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <div v-if="before.length > 0" class="facts">
      <span class="second">before</span>
      <span><template v-for="(one, at) in before" :key="one.runId"><template v-if="at > 0"> · </template><router-link :to="`/runs/${one.runId}`">{{ one.name ?? `run ${one.number}` }}</router-link> <MarkCoin v-if="lookAt(one.landing)" :mark="lookAt(one.landing)!.mark" :colour="lookAt(one.landing)!.colour" :size="12" /> {{ one.landing === null ? 'not there' : placeWords(one.landing, true) }}<span class="second day">{{ date(one.asOf) }}</span></template></span>
    </div>
    <div v-if="exception.waitsFor" class="facts" data-waits-for><span class="second">waits for</span><b>{{ exception.waitsFor }}</b></div>
    <div v-if="exception.alike" class="facts"><span class="second">alike</span><span>{{ counted(exception.alike, 'other waits', 'others wait') }} for the same reason, and came to the same by the same rule</span></div>
  </article>
</template>

<style scoped>
.panel { display: grid; gap: 10px; align-content: start; overflow-y: auto; padding-bottom: 12px; min-height: 0; }
header { display: flex; flex-wrap: wrap; align-items: baseline; gap: 2px 12px; }
h2 { font-size: 19px !important; font-weight: 700 !important; color: var(--ink) !important; overflow-wrap: anywhere; }
.aside { overflow-wrap: anywhere; }
.run { margin-left: auto; color: var(--second); font-size: 13.5px; }
.gets { font-size: 16px; line-height: 1.5; }
.reason { margin-left: 10px; }
.told { padding: 5px 10px; background: var(--sheet); border-left: 3px solid var(--pine); }
.told.lapsed { border-left-color: var(--brass); }
dl { margin: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 330px), 1fr)); gap: 0 28px; }
dl > div { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 12px; padding: 5px 0; border-bottom: 1px solid var(--hairline); color: var(--second); }
dl > div.about { color: var(--ink); }
dl > div.about dd { font-weight: 700; }
dd { margin: 0; font-variant-numeric: tabular-nums; text-align: right; overflow-wrap: anywhere; max-width: 240px; color: var(--ink); }
.now { margin-left: 10px; color: var(--brass); font-weight: 400; }
.facts { display: grid; grid-template-columns: 64px minmax(0, 1fr); gap: 10px; font-size: 13.5px; line-height: 1.6; }
.day { margin-left: 5px; }
.facts a { color: var(--ink); }
.walk { max-height: 260px; overflow-y: auto; font-size: 14px !important; }
</style>
