<script setup lang="ts">
/** What keeps the draft from being kept, and the ways out. */
import { gateSchema } from '@dime-gate/contract/gate'
import { changesBetween } from '@dime-gate/core/gate/changes'
import { shallowRef, watch } from 'vue'
import { ask, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { useDraft } from './gate-draft'
import { changeWords } from './version-words'

const bench = useDraft()
const notices = useNotices()
/** What was done to the gate elsewhere since it was seen here. */
const theirs = shallowRef<string[]>([])
watch(() => bench.keeping.state, async (state) => {
  theirs.value = []
  if (state !== 'stale') return
  try {
    const { id, draft: seen } = bench.stored!
    const { draft } = await ask(gateSchema, `/gates/${id}`)
    theirs.value = changesBetween(seen, draft).map((change) => changeWords(change, seen, draft))
  } catch {
    // The choice is there all the same.
  }
})

function settle(choice: 'theirs' | 'mine'): void {
  bench.settle(choice).catch((error) => notices.warn(messageOf(error)))
}
</script>

<template>
  <div v-if="bench.keeping.state === 'stale' || bench.keeping.state === 'failed'" class="notice problem keeping" role="alert">
    <span>{{ bench.keeping.message }} <template v-if="bench.keeping.state === 'stale'">Your changes are still here; choose which to go on with.</template><span v-if="theirs.length > 0" class="theirs">What was done elsewhere: {{ theirs.join('; ') }}.</span></span>
    <template v-if="bench.keeping.state === 'stale'">
      <v-btn @click="settle('theirs')">Take the other</v-btn>
      <v-btn @click="settle('mine')">Keep mine</v-btn>
    </template>
    <v-btn v-else @click="bench.tryAgain">Try again</v-btn>
  </div>
</template>

<style scoped>
.theirs { display: block; font-size: 13px; overflow-wrap: anywhere; }
.keeping { display: flex; gap: 12px; align-items: center; margin: 0 20px 6px; }
</style>
