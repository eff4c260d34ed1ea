<script setup lang="ts">
/** What can be done with a thing on its shelf: a new name, a copy, removing it. */
import { nextTick, ref } from 'vue'
import { vStands } from '../shared/v-stands'

const props = defineProps<{ name: string; canRename?: boolean; canCopy?: boolean }>()
const emit = defineEmits<{ rename: [name: string]; copy: []; remove: [] }>()

const isNaming = ref(false)
const field = ref<HTMLInputElement | null>(null)

async function beginNaming(): Promise<void> {
  isNaming.value = true
  await nextTick()
  field.value?.select()
}

function commit(): void {
  if (!isNaming.value) return
  isNaming.value = false
  const name = field.value!.value.trim()
  if (name !== '' && name !== props.name) emit('rename', name)
}
</script>

<template>
  <span class="actions wide">
    <input v-if="isNaming" ref="field" v-stands="name" :aria-label="`New name of ${name}`" maxlength="120" @keydown.enter="commit" @keydown.escape="isNaming = false" @blur="commit">
    <template v-else>
      <button v-if="canRename" class="plain-button" type="button" :aria-label="`Rename ${name}`" @click="beginNaming">Rename</button>
      <button v-if="canCopy" class="plain-button" type="button" :aria-label="`Copy ${name}`" @click="emit('copy')">Copy</button>
      <button class="plain-button" type="button" :aria-label="`Remove ${name}`" @click="emit('remove')">Remove</button>
    </template>
  </span>
</template>

<style scoped>
.actions { display: flex; gap: 18px; grid-column: 1 / -1; font-size: 13px; color: var(--second); }
.actions button { min-height: 24px; }
.actions button:hover { color: var(--ink); text-decoration: underline; }
input { height: 26px; width: min(100%, 360px); padding: 0 6px; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--ink); border-radius: 3px; }
</style>
