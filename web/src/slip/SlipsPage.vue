<script setup lang="ts">
/** The slips of a run: looked at one by one, printed together or each by itself, and handed out by links. */
import { API } from '@dime-gate/contract/api'
import { runSchema, type Run } from '@dime-gate/contract/run'
import { MOST_SLIPS, type SlipsRequest } from '@dime-gate/contract/slip'
import { placeFor, unknownNames } from '@dime-gate/core/slip/sentence'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCommands } from '../finder/commands'
import { ask, messageOf } from '../shared/api'
import { unlessAway } from '../shared/connection'
import { count, counted, date } from '../shared/format'
import { dayFromNow, isOver, useCopying } from '../shared/link-words'
import AskFirst from '../shared/AskFirst.vue'
import MarkCoin from '../shared/MarkCoin.vue'
import { useMaking } from '../shared/useMaking'
import { useTitle } from '../shared/useTitle'
import { runTitle } from '../shared/words'
import { printedIn, printQuery } from './slip-address'
import { firstSentence, sentenceNames } from './slip-words'
import SlipSheet from './SlipSheet.vue'
import { useSlips } from './useSlips'

const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const run = shallowRef<Run | null>(null)
const { head, slips, total, sentence, elsewhere, links, linkOf, trouble, load, wordsOf, keepSentence, makeLinks, withdraw } = useSlips(props.id)
const { making, make, stop } = useMaking()

const asked = computed((): SlipsRequest => printedIn(route.query))
const isTooMany = computed(() => total.value > MOST_SLIPS)
const sought = ref('')
const paper = ref('a4')
const endsOn = ref(dayFromNow(30))
const field = ref<HTMLInputElement | null>(null)
useTitle(() => run.value && `Slips: ${runTitle(run.value)}`)

async function open(): Promise<void> {
  try {
    run.value ??= await ask(runSchema, `/runs/${props.id}`)
    await load(asked.value, run.value.gateId)
  } catch (error) {
    trouble.value = messageOf(error)
  }
}
watch(() => JSON.stringify(asked.value), open, { immediate: true })

const whose = computed(() => [{ value: null, title: 'of all records' }, ...(run.value?.labels ?? []).filter(({ records }) => records > 0).map(({ label, records }) => ({ value: label, title: `with ${label || 'no value'} (${count(records)})` }))])
const chooseWhose = (label: string | null) => void router.replace({ query: label === null ? {} : { label } })

const told = computed(() => slips.value.map((slip) => {
  const who = head.value!.columns.flatMap(({ isIdentity }, at) => (isIdentity ? [slip.cells[at]![0] ?? slip.cells[at]![1] ?? ''] : []))
  const label = slip.byHand?.[head.value!.gate.outcomes[0]!.name] ?? slip.outcomes[0] ?? null
  return { slip, who: who.join(', ') || `record ${slip.record}`, label, look: head.value!.gate.outcomes[0]!.labels.find(({ value }) => value === label) ?? null }
}))
const listed = computed(() => {
  const words = sought.value.trim().toLowerCase()
  return words === '' ? told.value : told.value.filter(({ who, label }) => `${who} ${label ?? ''}`.toLowerCase().includes(words))
})
/** The record that is looked at. */
const chosen = ref<number | null>(null)
const shown = computed(() => listed.value.find(({ slip }) => slip.record === chosen.value) ?? listed.value[0] ?? null)
const words = computed(() => shown.value && wordsOf(shown.value.slip))

const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(computed(() => ({ count: listed.value.length, getScrollElement: () => scroller.value, estimateSize: () => ROW, overscan: 10 })))
const ROW = 40
function step(by: 1 | -1): void {
  const next = listed.value[listed.value.findIndex((one) => one === shown.value) + by]
  if (!next) return
  chosen.value = next.slip.record
  virtual.value.scrollToIndex(listed.value.indexOf(next))
}

const names = computed(() => (head.value ? sentenceNames(head.value) : []))
const unknown = computed(() => unknownNames(sentence.value, names.value))
const proposed = computed(() => (head.value ? firstSentence(head.value) : ''))
async function putIn(name: string): Promise<void> {
  const at = field.value?.selectionStart ?? sentence.value.length
  sentence.value = sentence.value.slice(0, at) + placeFor(name) + sentence.value.slice(field.value?.selectionEnd ?? at)
  await nextTick()
  field.value?.focus()
  field.value?.setSelectionRange(at + placeFor(name).length, at + placeFor(name).length)
}
const keep = () => run.value && unknown.value.length === 0 && keepSentence(run.value.gateId)

const addressOfLink = (token: string) => `${location.origin}/slip/${token}`
const copy = useCopying()
const makePdf = () => make('pdf', `/runs/${props.id}/slips.pdf?${printQuery(asked.value, paper.value)}`)
const makeZip = () => make('zip', `/runs/${props.id}/slips.zip?${printQuery(asked.value, paper.value)}`)
const linkAll = () => makeLinks(asked.value, endsOn.value, `${counted(total.value, 'link')} until ${date(endsOn.value)}.`)
const isOff = () => making.value !== '' || slips.value.length === 0 || isTooMany.value
useCommands([
  { words: 'All slips as one PDF', key: 'p', act: () => void makePdf(), isOff },
  { words: 'A PDF for each slip', key: 'z', act: () => void makeZip(), isOff },
  { words: 'Make links to all slips', key: 'l', act: () => void linkAll(), isOff },
  { words: 'The next slip', key: 'ArrowDown', act: () => step(1) },
  { words: 'The slip before', key: 'ArrowUp', act: () => step(-1) },
])
</script>

<template>
  <section v-if="trouble && !head" class="lone"><p class="notice problem" role="alert">{{ unlessAway(trouble) }}</p><v-btn @click="open">Try again</v-btn></section>
  <section v-else-if="head && run" class="slips">
    <header>
      <h1>Slips</h1><router-link :to="`/runs/${id}`">{{ runTitle(run) }}</router-link><span class="second">{{ head.tableName }}, as of {{ date(head.asOf) }}</span>
      <span class="space" />
      <v-select :model-value="asked.label" :items="whose" class="whose" hide-details aria-label="Whose slips" @update:model-value="chooseWhose" />
      <v-select v-model="paper" :items="[{ value: 'a4', title: 'A4' }, { value: 'letter', title: 'US letter' }]" class="size" hide-details aria-label="Paper" />
      <v-btn v-if="making" @click="stop">Making {{ making === 'pdf' ? 'the PDF' : 'the PDFs' }} … stop</v-btn>
      <template v-else>
        <v-btn class="primary" :disabled="isTooMany || slips.length === 0" @click="makePdf">One PDF<kbd>P</kbd></v-btn>
        <v-btn :disabled="isTooMany || slips.length === 0" @click="makeZip">A PDF each<kbd>Z</kbd></v-btn>
      </template>
    </header>
    <p v-if="isTooMany" class="notice" role="status">There are {{ count(total) }} of these, and {{ count(MOST_SLIPS) }} can be made at a time: the first are shown. Choose those of one label.</p>
    <div class="says">
      <label><span>The sentence on them</span><input ref="field" v-model="sentence" maxlength="1000" :placeholder="proposed" @change="keep" @keydown.enter="keep"></label>
      <div class="names" role="group" aria-label="Put in a name">
        <button v-for="name in names" :key="name" class="plain-button chip" type="button" :aria-label="`Put in ${name}`" @mousedown.prevent @click="putIn(name)">{{ name }}</button>
        <button v-if="sentence === ''" class="plain-button link" type="button" @click="sentence = proposed; keep()">Take “{{ proposed }}”</button>
      </div>
      <p v-if="unknown.length > 0" class="trouble" role="alert">Nothing is called {{ unknown.map((name) => `“${name}”`).join(', ') }}, so it is not kept yet.</p>
      <p v-if="elsewhere !== null && elsewhere !== sentence" class="notice" role="status">Somebody else wrote “{{ elsewhere }}”. <button class="plain-button link" type="button" @click="sentence = elsewhere!">Take that</button> <button class="plain-button link" type="button" @click="keep">Keep mine</button></p>
    </div>
    <div class="both">
      <aside>
        <div class="links">
          <label>Links lead there until <input v-model="endsOn" type="date" :min="dayFromNow(0)"></label>
          <v-btn class="plain" :disabled="isTooMany || slips.length === 0" @click="linkAll">Link to all<kbd>L</kbd></v-btn>
          <template v-if="links.length > 0"><a :href="`${API}/runs/${id}/links.csv`" download>As CSV</a><AskFirst :label="`Withdraw all ${count(links.length)}`" question="They lead nowhere from then on, and new ones have other addresses." @sure="withdraw(null)" /></template>
        </div>
        <input v-model="sought" type="search" class="sought" placeholder="find a record" aria-label="Find a record">
        <div ref="scroller" class="rows" role="listbox" aria-label="Slips" tabindex="0">
          <div :style="{ height: `${virtual.getTotalSize()}px` }">
            <div v-for="item in virtual.getVirtualItems()" :key="listed[item.index]!.slip.record" class="row" role="option" :aria-selected="listed[item.index] === shown" :style="{ transform: `translateY(${item.start}px)`, height: `${ROW}px` }" @click="chosen = listed[item.index]!.slip.record">
              <b class="who">{{ listed[item.index]!.who }}</b>
              <span class="got"><MarkCoin v-if="listed[item.index]!.look" :mark="listed[item.index]!.look!.mark" :colour="listed[item.index]!.look!.colour" :size="13" /> {{ listed[item.index]!.label ?? listed[item.index]!.slip.status }}</span>
              <span class="linked second">{{ linkOf.has(listed[item.index]!.slip.record) ? (isOver(linkOf.get(listed[item.index]!.slip.record)!.endsOn) ? 'link over' : 'linked') : '' }}</span>
            </div>
          </div>
        </div>
        <p v-if="listed.length === 0" class="second none">{{ told.length === 0 ? 'There are none of these.' : 'None is found.' }}</p>
      </aside>
      <div v-if="shown && words" class="seen">
        <p class="link-line">
          <template v-if="linkOf.get(shown.slip.record)"><a :href="addressOfLink(linkOf.get(shown.slip.record)!.token)" target="_blank" rel="noopener">Its link</a><span class="second">{{ isOver(linkOf.get(shown.slip.record)!.endsOn) ? 'ended on' : 'until' }} {{ date(linkOf.get(shown.slip.record)!.endsOn) }}</span><v-btn class="plain" @click="copy(addressOfLink(linkOf.get(shown.slip.record)!.token))">Copy it</v-btn><AskFirst label="Withdraw it" question="It leads nowhere from then on, and a new one has another address." @sure="withdraw([shown.slip.record])" /></template>
          <v-btn v-else class="plain" @click="makeLinks({ label: null, records: [shown.slip.record] }, endsOn, `A link until ${date(endsOn)}.`)">Make a link to this one</v-btn>
        </p>
        <SlipSheet :head="head" :words="words" />
      </div>
    </div>
  </section>
  <p v-else class="second lone" role="status">Making the slips …</p>
</template>

<style scoped>
.slips { display: grid; grid-template-rows: auto auto minmax(0, 1fr); height: calc(100vh - 48px); }
.slips:has(> .notice) { grid-template-rows: auto auto auto minmax(0, 1fr); }
header { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 12px; padding: 10px 20px; }
.space { flex: 1; }
.whose { flex: none; width: 210px; }
.size { flex: none; width: 116px; }
.says { display: grid; gap: 5px; padding: 0 20px 10px; border-bottom: 1px solid var(--hairline); }
.says label { display: flex; align-items: baseline; gap: 12px; }
.says label span { flex: none; color: var(--second); font-size: 13px; }
.says input { flex: 1; min-width: 0; height: 30px; padding: 0 4px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.names { display: flex; flex-wrap: wrap; gap: 4px 6px; font-size: 13px; }
.chip { min-height: 24px; padding: 0 9px; border: 1px solid var(--hairline); border-radius: 12px; background: var(--sheet); }
.chip:hover { background: var(--tint); }
.link { min-height: 24px; color: var(--pine); font-weight: 600; }
.both { display: grid; grid-template-columns: 400px minmax(0, 1fr); min-height: 0; }
aside { display: grid; grid-template-rows: auto auto minmax(0, 1fr); min-height: 0; border-right: 1px solid var(--hairline); background: var(--sheet); }
.links { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 10px; padding: 8px 12px; font-size: 13px; }
.links input { height: 26px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.sought { height: 32px; margin: 0 12px 6px; padding: 0 8px; font: inherit; color: var(--ink); background: var(--ground); border: 1px solid var(--hairline); border-radius: 4px; }
.rows { overflow-y: auto; border-top: 1px solid var(--hairline); }
.rows > div { position: relative; }
.row { position: absolute; inset: 0 0 auto; display: grid; grid-template-columns: minmax(0, 1fr) 150px 56px; align-items: center; gap: 10px; padding: 0 12px; border-bottom: 1px solid var(--hairline); cursor: pointer; }
.row[aria-selected=true] { background: var(--tint); box-shadow: inset 4px 0 var(--brass); }
.who { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.got { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-size: 13px; }
.linked { font-size: 12.5px; text-align: right; }
.none { padding: 12px; }
.seen { display: grid; gap: 8px; align-content: start; overflow-y: auto; padding: 10px 24px 30px; }
.seen :deep(.slip) { width: min(100%, 190mm); }
.link-line { display: flex; align-items: center; gap: 10px; min-height: 28px; font-size: 13px; }
.lone { display: grid; gap: 10px; justify-items: start; padding: 40px 20px; }
@media (max-width: 760px) {
  .slips { height: auto; }
  .both { grid-template-columns: minmax(0, 1fr); }
  .rows { height: 240px; }
  .seen { padding: 10px 12px 30px; }
}
</style>
