<script setup lang="ts">
/** What keeps the draft from being kept, and the ways out. */
import { messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { useDraft } from './gate-draft'

const bench = useDraft()
const notices = useNotices()

function settle(choice: 'theirs' | 'mine'): void {
  bench.settle(choice).catch((error) => notices.warn(messageOf(error)))
}
</script>

<template>
  <div v-if="bench.keeping.state === 'stale' || bench.keeping.state === 'failed'" class="notice problem keeping" role="alert">
    <span>{{ bench.keeping.message }} <template v-if="bench.keeping.state === 'stale'">Your changes are still here; choose which to go on with.</template></span>
    <template v-if="bench.keeping.state === 'stale'">
      <v-btn @click="settle('theirs')">Take the other</v-btn>
      <v-btn @click="settle('mine')">Keep mine</v-btn>
    </template>
    <v-btn v-else @click="bench.tryAgain">Try again</v-btn>
  </div>
</template>

<style scoped>
.keeping { display: flex; gap: 12px; align-items: center; margin: 0 20px 6px; }
</style>
