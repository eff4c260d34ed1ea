<script setup lang="ts">
/** The date that counts as today, stated on every page: a date, or whatever day it is; for everything, or for this page alone. */
import { computed, onMounted, onScopeDispose, ref } from 'vue'
import { useRoute } from 'vue-router'
import { isPassing, messageOf } from './api'
import { useReturn } from './connection'
import { date } from './format'
import { useNotices } from './notices'
import { ownDate } from './own-date'
import { useAsOf } from './useAsOf'
import { useWorkspace } from './workspace'

const MINUTE = 60_000

const route = useRoute()
const workspace = useWorkspace()
const { asOf, own, setOwn } = useAsOf()
const notices = useNotices()
const open = ref(false)
const typed = ref('')
const follows = ref<'date' | 'today'>('date')
const isHereAlone = ref(false)

/** Runs have a date of their own already, and shelves show results of many. */
const canBeOwn = computed(() => route.meta.hasOwnDate === true)

onMounted(load)
useReturn(load)
// A page that stays open over midnight goes along with the day.
const clock = setInterval(() => workspace.isToday && void workspace.load().catch(() => undefined), MINUTE)
onScopeDispose(() => clearInterval(clock))

function load(): void {
  workspace.load().catch((error) => isPassing(error) || notices.warn(messageOf(error)))
}

function begin(): void {
  typed.value = asOf.value ?? ''
  follows.value = workspace.isToday && own.value === null ? 'today' : 'date'
  isHereAlone.value = own.value !== null
}

async function change(): Promise<void> {
  try {
    if (canBeOwn.value && isHereAlone.value && follows.value === 'date') await setOwn(typed.value)
    else {
      await workspace.change(follows.value === 'today' ? 'today' : typed.value)
      if (own.value !== null) await setOwn(null)
    }
    open.value = false
  } catch (error) {
    notices.warn(messageOf(error))
  }
}

async function giveUp(): Promise<void> {
  await setOwn(null)
  open.value = false
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props }">
      <button v-bind="props" class="plain-button pill" :class="{ own: canBeOwn && own }" type="button" @click="begin">
        as of&nbsp;<b v-if="canBeOwn && own">{{ date(own) }}, here alone</b>
        <b v-else-if="workspace.asOf">{{ workspace.isToday ? `today, ${date(workspace.asOf)}` : date(workspace.asOf) }}</b>
      </button>
    </template>
    <v-card class="pa-4" width="330" max-width="100%">
      <form @submit.prevent="change">
        <h2>What counts as today</h2>
        <v-radio-group v-model="follows" hide-details density="compact">
          <v-radio value="date" label="This date" />
          <p class="date">
            <v-text-field v-model="typed" type="date" aria-label="As-of date" :disabled="follows !== 'date'" :required="follows === 'date'" hide-details />
            <span v-if="follows === 'date' && ownDate(typed)" class="second">{{ date(typed) }}</span>
          </p>
          <v-radio value="today" label="Whatever day it is" />
        </v-radio-group>
        <p v-if="follows === 'today'" class="second say">What stands on dates will move from day to day, without anybody changing anything. Runs keep the day that they were made on.</p>
        <v-checkbox v-else-if="canBeOwn" v-model="isHereAlone" label="On this page alone" hide-details density="compact" />
        <p v-if="follows === 'date' && isHereAlone && canBeOwn" class="second say">It stands in the address, so that it can be sent. Runs kept from here take it.</p>
        <p v-else-if="follows === 'date'" class="second say">It counts wherever a date is compared, and is kept with every run.</p>
        <p class="ways">
          <v-btn class="primary" type="submit">{{ follows === 'today' ? 'Follow the day' : 'Set the date' }}</v-btn>
          <v-btn v-if="canBeOwn && own && workspace.asOf" class="plain" @click="giveUp">Back to {{ workspace.isToday ? 'today' : date(workspace.asOf) }}</v-btn>
        </p>
      </form>
    </v-card>
  </v-menu>
</template>

<style scoped>
.own { border-color: var(--brass); color: var(--brass); }
.date { display: flex; align-items: center; gap: 12px; margin: 2px 0 6px 34px; white-space: nowrap; }
.date .v-text-field { flex: 0 0 160px; }
.say { margin: 6px 0 10px; }
.ways { display: flex; gap: 8px; align-items: center; }
</style>
