<script setup lang="ts">
/** A button for what cannot be taken back: it asks first. */
defineProps<{ label: string; question: string }>()
const emit = defineEmits<{ sure: [] }>()
</script>

<template>
  <v-menu location="bottom end">
    <template #activator="{ props: menu }"><v-btn v-bind="menu" class="plain">{{ label }}</v-btn></template>
    <div class="asks"><p>{{ question }}</p><v-btn class="primary" @click="emit('sure')">{{ label }}</v-btn></div>
  </v-menu>
</template>

<style scoped>
.asks { display: grid; gap: 10px; justify-items: start; max-width: 320px; padding: 12px; background: var(--sheet); border: 1px solid var(--ink); border-radius: 4px; }
</style>
