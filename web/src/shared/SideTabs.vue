<script setup lang="ts" generic="Name extends string">
/** One thing at a time of several that belong together, as what stands beside a gate's form. */
defineProps<{ label: string; tabs: readonly { name: Name; words: string; count?: number; isTrouble?: boolean }[] }>()
const shown = defineModel<Name>({ required: true })

function key(event: KeyboardEvent, names: readonly Name[]): void {
  const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  shown.value = names[(names.indexOf(shown.value) + by + names.length) % names.length]!
  const row = event.currentTarget as HTMLElement
  requestAnimationFrame(() => row.querySelector<HTMLElement>('[aria-selected=true]')?.focus())
}
</script>

<template>
  <div class="tabs" role="tablist" :aria-label="label" @keydown="key($event, tabs.map(({ name }) => name))">
    <button v-for="tab in tabs" :key="tab.name" class="plain-button tab" type="button" role="tab" :aria-selected="tab.name === shown" :tabindex="tab.name === shown ? 0 : -1" :data-side="tab.name" @click="shown = tab.name">{{ tab.words }}<span v-if="tab.count" class="figure count" :class="{ trouble: tab.isTrouble }">{{ tab.count }}</span></button>
  </div>
</template>

<style scoped>
.tabs { display: flex; flex-wrap: wrap; gap: 0 13px; border-bottom: 1px solid var(--hairline); }
.tab { min-height: 28px; color: var(--second); border-bottom: 2px solid transparent; font-size: 13.5px; white-space: nowrap; }
.tab[aria-selected='true'] { color: var(--ink); font-weight: 700; border-bottom-color: var(--brass); }
.count { margin-left: 5px; font-weight: 400; }
.tab:hover { color: var(--ink); }
</style>
