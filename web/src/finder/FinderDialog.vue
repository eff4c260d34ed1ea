<script setup lang="ts">
/** One field to find whatever can be done on this page, and every table, gate and run. */
import { deskSchema } from '@dime-gate/contract/desk'
import { foundRecordSchema } from '@dime-gate/contract/found'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import { ask, messageOf } from '../shared/api'
import { useLater } from '../shared/useLater'
import { commandsEverywhere, commandsHere } from './commands'
import { type Found, placesOf, recordPlaces, SHELVES } from './places'
import { keyWords, type Ranked, ranked } from './ranked'
import { recentPlaces } from './recent'

const isOpen = defineModel<boolean>({ required: true })

const router = useRouter()
const field = useTemplateRef<HTMLInputElement>('field')
const list = useTemplateRef<HTMLElement>('list')
const sought = ref('')
const at = ref(0)
const places = shallowRef<Found[]>(SHELVES)
const trouble = ref('')
/** Records that are called so, of what is looked for now. */
const records = shallowRef<Found[]>([])
const found = computed(() => (isOpen.value ? ranked(sought.value, [...commandsHere.value, ...commandsEverywhere.value], [...places.value, ...records.value], recentPlaces()) : []))
const lookForRecords = useLater(async () => {
  const text = sought.value.trim()
  // What has a name is found without.
  const answer = text.length < 2 ? [] : await ask(z.array(foundRecordSchema), `/found?text=${encodeURIComponent(text)}`).catch(() => [])
  if (sought.value.trim() === text) records.value = recordPlaces(answer)
}, 150)

watch(isOpen, async (now) => {
  if (!now) return
  sought.value = ''
  at.value = 0
  await nextTick()
  field.value?.focus()
  try {
    places.value = placesOf(await ask(deskSchema, '/desk'))
    trouble.value = ''
  } catch (error) {
    // What can be done here is there all the same.
    trouble.value = messageOf(error)
  }
}, { immediate: true })
watch(sought, () => {
  at.value = 0
  lookForRecords()
})

async function take(one: Ranked | undefined): Promise<void> {
  if (!one) return
  isOpen.value = false
  // What it does may set the focus: after the dialog has given it back.
  await nextTick()
  await new Promise(requestAnimationFrame)
  if (one.command) one.command.act()
  else await router.push(one.path!)
}

function key(event: KeyboardEvent): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) {
    at.value = (at.value + by + found.value.length) % Math.max(1, found.value.length)
    void nextTick(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
  } else if (event.key === 'Enter') void take(found.value[at.value])
  else return
  event.preventDefault()
}
</script>

<template>
  <v-dialog v-model="isOpen" max-width="560" aria-label="Find" transition="none" class="finder">
    <v-card class="pa-0">
      <input ref="field" v-model="sought" role="combobox" aria-label="What are you looking for?" placeholder="What to do, or a table, a gate, a run, a record" autocomplete="off" spellcheck="false" aria-expanded="true" aria-controls="found" :aria-activedescendant="found.length > 0 ? `found-${at}` : undefined" @keydown="key">
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <ul v-if="found.length > 0" id="found" ref="list" role="listbox" aria-label="Found">
        <li v-for="(one, place) in found" :id="`found-${place}`" :key="`${one.words} ${one.path ?? ''}`" role="option" :aria-selected="place === at" @click="take(one)" @pointermove="at = place">
          <span class="words" :class="{ act: one.command }">{{ one.words }}</span>
          <span class="second">{{ one.detail }}</span>
          <kbd v-if="one.command?.key">{{ keyWords(one.command.key) }}</kbd>
        </li>
      </ul>
      <p v-else class="second none">Nothing is called so. Names of tables, gates and runs are looked through, who records are, and what can be done on this page.</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.finder :deep(.v-overlay__content) { align-self: start; margin-top: 9vh; }
input { width: 100%; height: 52px; padding: 0 18px; font: inherit; font-size: 18px; color: var(--ink); background: none; border: 0; border-bottom: 1px solid var(--hairline); }
input:focus-visible { outline: 0; border-radius: 0; }
input::placeholder { color: var(--second); opacity: 1; }
input:focus { border-bottom-color: var(--brass); box-shadow: inset 0 -1px 0 var(--brass); }
ul { list-style: none; margin: 0; padding: 6px 0; max-height: min(56vh, 460px); overflow: auto; }
li { display: flex; align-items: baseline; gap: 12px; min-height: 34px; padding: 5px 18px; cursor: pointer; }
li[aria-selected='true'] { background: var(--tint); }
.words { font-weight: 600; overflow-wrap: anywhere; }
.act { color: var(--pine); }
li .second { font-size: 13.5px; }
kbd { margin-left: auto; }
.none, .trouble { padding: 16px 18px; margin: 0; }
</style>
