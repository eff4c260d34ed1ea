<script setup lang="ts">
/** What is expected, and whether it came. */
import type { Check } from '@dime-gate/contract/expectation'
import type { Column } from '@dime-gate/contract/table'
import { isSame } from '@dime-gate/core/gate/is-same'
import type { Tray } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { count } from '../shared/format'
import { cameTo, expectationWords, isMissed } from './expectation-words'
import { mendingTray } from './tray-of'

/** @property later those that only a run tells @property tray the one that is listed @property hasNearness whether records of the gate can be near a label */
const props = defineProps<{ checks: readonly Check[]; later?: readonly Check[]; columns: Column[]; tray: Tray; hasNearness: boolean }>()
const emit = defineEmits<{ add: []; remove: [id: number]; show: [check: Check]; list: [tray: Tray] }>()

/** What is met, and only a run tells, is out of the way where there is something else to look at. */
const MOST_OPEN = 4
const missed = computed(() => props.checks.filter(isMissed).length)
const parts = computed(() => {
  const first = props.checks.filter((check) => isMissed(check) || check.problem !== null)
  const rest = props.checks.filter((check) => !first.includes(check))
  const isShort = props.checks.length <= MOST_OPEN || first.length === 0
  return [{ folds: false, checks: isShort ? [...first, ...rest] : first }, ...(isShort ? [] : [{ folds: true, checks: rest }])]
})
const stateOf = (check: Check) => (check.problem !== null ? 'not there' : isMissed(check) ? 'missed' : 'met')
const mending = (check: Check) => (props.hasNearness ? mendingTray(check) : null)
const isListed = (tray: Tray) => isSame(tray, props.tray)
const wordsOf = (check: Check) => expectationWords(check.expectation, props.columns)
</script>

<template>
  <section>
    <h2>Expectations <span v-if="checks.length > 0" :class="missed > 0 ? 'trouble' : 'second'">{{ missed > 0 ? `${count(missed)} of ${count(checks.length)} missed` : checks.length === 1 ? 'met' : `all ${count(checks.length)} met` }}</span><v-btn class="plain add" @click="emit('add')">{{ checks.length + (later?.length ?? 0) > 0 ? 'More' : 'Expect something' }}<kbd>X</kbd></v-btn></h2>
    <p v-if="checks.length + (later?.length ?? 0) === 0" class="second empty">Say how many should get a label, and be told when they do not.</p>
    <component :is="part.folds ? 'details' : 'div'" v-for="part in parts" :key="String(part.folds)">
      <summary v-if="part.folds" class="second">{{ count(part.checks.length) }} met</summary>
      <ul>
        <li v-for="check in part.checks" :key="check.id" :data-expected="stateOf(check)">
          <b class="state" :class="stateOf(check)">{{ stateOf(check) }}</b>
          <button class="plain-button words" type="button" title="Show these records" @click="emit('show', check)">{{ wordsOf(check) }}</button>
          <span class="came" :class="{ trouble: isMissed(check) }">{{ cameTo(check) }}</span>
          <button class="plain-button second drop" type="button" :aria-label="`No longer expect: ${wordsOf(check)}`" @click="emit('remove', check.id)">×</button>
          <template v-for="near in [mending(check)]" :key="String(near)"><button v-if="near" class="plain-button link" type="button" :aria-pressed="isListed(near)" @click="emit('list', isListed(near) ? { kind: 'all' } : near)">{{ isListed(near) ? 'not only these' : 'the records nearest to mending it' }}</button></template>
        </li>
      </ul>
    </component>
    <ul v-if="later && later.length > 0">
      <li v-for="check in later" :key="check.id" data-expected="later">
        <span class="state second">later</span><span class="words">{{ wordsOf(check) }}</span><span class="second came">told on a run</span>
        <button class="plain-button second drop" type="button" :aria-label="`No longer expect: ${wordsOf(check)}`" @click="emit('remove', check.id)">×</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section { display: grid; gap: 3px; align-content: start; }
h2 { display: flex; flex-wrap: wrap; align-items: center; gap: 0 8px; min-height: 26px; }
.add { margin-left: auto; }
.empty { font-size: 13px; }
ul { list-style: none; margin: 0; padding: 0; font-size: 13.5px; }
li { display: grid; grid-template-columns: 52px minmax(0, 1fr) auto 24px; gap: 0 8px; align-items: baseline; min-height: 27px; border-bottom: 1px solid var(--hairline); }
.state.met { color: var(--pine); }
.state.missed, .state.not { color: var(--brick); }
.words { overflow-wrap: anywhere; line-height: 1.3; padding: 2px 0; }
button.words:hover { text-decoration: underline; text-underline-offset: 3px; }
.came { font-size: 13px; font-variant-numeric: tabular-nums; text-align: right; max-width: 132px; }
summary { cursor: pointer; font-size: 13px; min-height: 24px; padding-top: 3px; }

.link { grid-column: 2 / -1; min-height: 24px; color: var(--pine); font-size: 13px; text-decoration: underline; text-underline-offset: 3px; }
.drop { min-height: 24px; text-align: center; }
</style>
