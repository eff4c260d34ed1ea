<script setup lang="ts">
/** What can be done here by one key, and what everywhere, on one sheet. */
import { commandsEverywhere, commandsHere, hasSingleKeys, switchSingleKeys } from '../finder/commands'
import { keyWords } from '../finder/ranked'

const isOpen = defineModel<boolean>({ required: true })
const ALWAYS = [
  { key: '/', words: 'Find what to do, a table, a gate, a run, a record (Ctrl / from within a field too)' },
  { key: 'Esc', words: 'Close what is open, give a drag up' },
]
const SECTIONS = [{ name: 'On this page', of: commandsHere }, { name: 'On every page', of: commandsEverywhere }]
</script>

<template>
  <v-dialog v-model="isOpen" max-width="640" aria-label="Keys">
    <v-card class="sheet">
      <h1>Keys</h1>
      <p v-if="!hasSingleKeys" class="notice">Single keys are off, so that none of these acts. <button class="plain-button link" type="button" @click="switchSingleKeys">Switch them on</button></p>
      <template v-for="section in SECTIONS" :key="section.name">
        <template v-if="section.of.value.some(({ key }) => key) || section.name === 'On every page'">
          <h2>{{ section.name }}</h2>
          <dl>
            <div v-for="{ key, words } in section.of.value.filter((one) => one.key)" :key="words"><dt><kbd>{{ keyWords(key!) }}</kbd></dt><dd>{{ words }}</dd></div>
            <template v-if="section.name === 'On every page'"><div v-for="one in ALWAYS" :key="one.key"><dt><kbd>{{ one.key }}</kbd></dt><dd>{{ one.words }}</dd></div></template>
          </dl>
        </template>
      </template>
      <p class="second">Keys act where nothing is being typed. <button v-if="hasSingleKeys" class="plain-button link" type="button" @click="switchSingleKeys">Switch single keys off</button></p>
      <v-btn class="primary" @click="isOpen = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet { display: grid; gap: 8px; justify-items: start; padding: 18px 22px; }
h2 { margin-top: 8px !important; }
dl { width: 100%; margin: 0; columns: 2; column-gap: 28px; }
dl > div { display: flex; align-items: baseline; gap: 10px; padding: 3px 0; break-inside: avoid; }
dt { flex: none; width: 44px; text-align: right; }
dt kbd { margin: 0; }
dd { margin: 0; }
.link { min-height: 24px; color: var(--pine); font-weight: 600; }
@media (max-width: 600px) { dl { columns: 1; } }
</style>
