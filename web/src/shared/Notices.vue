<script setup lang="ts">
import { computed } from 'vue'
import { useNotices } from './notices'

const notices = useNotices()
const open = computed({ get: () => notices.current !== null, set: (is) => !is && notices.clear() })

function act(): void {
  const { act: chosen } = notices.current!
  notices.clear()
  chosen!.run()
}
</script>

<template>
  <v-snackbar v-model="open" :timeout="notices.current?.problem || notices.current?.act ? 12000 : 4000" location="bottom" color="ink">
    <span role="status">{{ notices.current?.text }}</span>
    <template #actions>
      <button v-if="notices.current?.act" class="plain-button close" type="button" @click="act">{{ notices.current.act.label }}</button>
      <button class="plain-button close" type="button" @click="notices.clear()">Close</button>
    </template>
  </v-snackbar>
</template>

<style scoped>
.close { padding: 4px 10px; font-weight: 600; }
</style>
