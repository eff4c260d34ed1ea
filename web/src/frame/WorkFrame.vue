<script setup lang="ts">
/** What stands around every place of the work: where one can go, what waits, what can be found. */
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import AsOfDate from '../shared/AsOfDate.vue'
import { hasSingleKeys, keyOf, switchSingleKeys, useCommands } from '../finder/commands'
import FinderDialog from '../finder/FinderDialog.vue'
import { noteVisit } from '../finder/recent'
import { awayMessage } from '../shared/connection'
import { helpPlace } from '../help/help-place'
import KeySheet from '../help/KeySheet.vue'
import DropFiles from '../incoming/DropFiles.vue'
import { useWaiting } from '../review/useWaiting'
import { count } from '../shared/format'
import Notices from '../shared/Notices.vue'
import { rememberTheme } from '../theme'

/** Milliseconds in which a page has drawn what it is about. */
const SOON = 400
const theme = useTheme()
const isNight = computed(() => theme.global.name.value === 'night')

function switchTheme(): void {
  const name = isNight.value ? 'paper' : 'night'
  theme.change(name)
  rememberTheme(name)
}

const waiting = useWaiting()
/** What is not seen yet comes after what is: the page itself first. */
const isSettled = ref(false)
const settling = setTimeout(() => (isSettled.value = true), SOON)
onBeforeUnmount(() => clearTimeout(settling))
const isFinding = ref(false)
const areKeysShown = ref(false)
useCommands([{ words: 'Show the keys', key: '?', act: () => (areKeysShown.value = true) }, { words: 'Night, or paper', act: switchTheme }, { words: 'Single keys off, or on', act: switchSingleKeys }], true)
useRouter().afterEach((to) => noteVisit(to.path))
noteVisit(useRoute().path)

/** With Ctrl it opens from within a field too, and where single keys are off. */
function openFinder(event: KeyboardEvent): void {
  const isAsked = event.key === '/' && (event.ctrlKey || event.metaKey || keyOf(event) === '/')
  if (!isAsked || document.querySelector('.v-overlay--active.v-dialog')) return
  event.preventDefault()
  isFinding.value = true
}
onMounted(() => window.addEventListener('keydown', openFinder))
onBeforeUnmount(() => window.removeEventListener('keydown', openFinder))
</script>

<template>
  <header class="top">
    <router-link class="home" to="/" aria-label="Dime Gate, to the desk">
      <svg width="30" height="26" viewBox="0 0 30 26" aria-hidden="true">
        <circle cx="9" cy="7.5" r="5.5" fill="var(--tint)" stroke="var(--ink)" stroke-width="1.6" />
        <path d="M2 18 27 11" stroke="var(--ink)" stroke-width="2" stroke-linecap="round" />
        <path d="M15.5 19.5V25M20.5 18V25M25.5 16.5V25" stroke="var(--pine)" stroke-width="2.2" />
      </svg>
      <span>Dime Gate</span>
    </router-link>
    <nav aria-label="Places">
      <router-link to="/" exact-active-class="here">Desk</router-link>
      <router-link to="/tables" active-class="here">Tables</router-link>
      <router-link to="/gates" active-class="here">Gates</router-link>
      <router-link to="/runs" active-class="here">Runs</router-link>
      <router-link to="/review" active-class="here">Review <span v-if="waiting > 0" class="figure trouble" :aria-label="`${waiting} wait`">{{ count(waiting) }}</span></router-link>
    </nav>
    <span class="space" />
    <button class="plain-button find" type="button" @click="isFinding = true">Find<kbd>{{ hasSingleKeys ? '/' : 'Ctrl /' }}</kbd></button>
    <AsOfDate />
    <router-link class="help" :to="`/help/${helpPlace || ($route.meta.help ?? 'using')}`">Help</router-link>
    <button class="plain-button theme" type="button" :aria-pressed="isNight" @click="switchTheme">{{ isNight ? 'Paper' : 'Night' }}</button>
  </header>
  <p v-if="awayMessage" class="away" role="alert">{{ awayMessage }}</p>
  <main><router-view :key="`${$route.path} ${$route.query.on ?? ''}`" /></main>
  <FinderDialog v-if="isSettled || isFinding" v-model="isFinding" />
  <KeySheet v-if="isSettled || areKeysShown" v-model="areKeysShown" />
  <Notices />
  <DropFiles />
</template>

<style scoped>
.top { display: flex; align-items: center; gap: 20px; height: 48px; padding: 0 20px; border-bottom: 1px solid var(--hairline); }
.away { margin: 0; padding: 6px 20px; font-size: 14px; color: var(--sheet); background: var(--brick); }
.home { display: flex; align-items: center; gap: 10px; font-size: 17px; font-weight: 700; color: var(--ink) !important; text-decoration: none; white-space: nowrap; }
nav { display: flex; gap: 18px; }
nav a { color: var(--second) !important; text-decoration: none; }
nav a.here { color: var(--ink) !important; font-weight: 600; }
.space { flex: 1; }
.find { color: var(--second); font-size: 14px; min-height: 28px; }
.find:hover { color: var(--ink); }
.help, .help:visited { color: var(--second) !important; font-size: 13px; text-decoration: none; }
.theme { color: var(--second); font-size: 13px; }
@media (max-width: 640px) {
  .top { flex-wrap: wrap; gap: 4px 12px; height: auto; padding: 8px 12px 6px; }
  nav { order: 4; flex-basis: 100%; gap: 20px; }
  nav a { padding: 3px 0; }
}
</style>
