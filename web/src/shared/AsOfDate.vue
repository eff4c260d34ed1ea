<script setup lang="ts">
/** The date that counts as today, stated on every page and changed here alone. */
import { onMounted, ref } from 'vue'
import { date } from './format'
import { useNotices } from './notices'
import { isPassing, messageOf } from './api'
import { useReturn } from './connection'
import { useWorkspace } from './workspace'

const workspace = useWorkspace()
const notices = useNotices()
const open = ref(false)
const typed = ref('')

onMounted(load)
useReturn(load)

function load(): void {
  workspace.load().catch((error) => isPassing(error) || notices.warn(messageOf(error)))
}

function begin(): void {
  typed.value = workspace.asOf ?? ''
  open.value = true
}

async function change(): Promise<void> {
  try {
    await workspace.change(typed.value)
    open.value = false
  } catch (error) {
    notices.warn(messageOf(error))
  }
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props }">
      <button v-bind="props" class="plain-button pill" type="button" @click="begin">
        as of&nbsp;<b v-if="workspace.asOf">{{ date(workspace.asOf) }}</b>
      </button>
    </template>
    <v-card class="pa-4" max-width="300">
      <form @submit.prevent="change">
        <v-text-field v-model="typed" type="date" label="As-of date" required />
        <p class="second my-2">Counts as today wherever a date is compared, and is kept with every run.</p>
        <v-btn class="primary" type="submit">Set the date</v-btn>
      </form>
    </v-card>
  </v-menu>
</template>
