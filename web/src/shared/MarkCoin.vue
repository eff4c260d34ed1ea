<script setup lang="ts">
/** A label's mark: a small shape in the label's colour, told from the others by outline alone. */
import type { Mark } from '@dime-gate/core/gate/mark'

withDefaults(defineProps<{ mark: Mark; colour: string; size?: number }>(), { size: 16 })

/** Outlines in a square of 16. */
const SHAPES: Record<Mark, string> = {
  disc: 'M8 1.5a6.5 6.5 0 1 0 0 13a6.5 6.5 0 1 0 0-13Z',
  drop: 'M8 .8C10 4.2 13 6.4 13 9.9A5 5 0 0 1 3 9.9C3 6.4 6 4.2 8 .8Z',
  square: 'M2.4 2.4h11.2v11.2H2.4Z',
  kite: 'M8 .6 15.4 8 8 15.4.6 8Z',
  cross: 'M5.6 1.4h4.8v4.2h4.2v4.8h-4.2v4.2H5.6v-4.2H1.4V5.6h4.2Z',
  peak: 'M8 1.6 15.2 14H.8Z',
  ring: 'M8 1.2a6.8 6.8 0 1 0 0 13.6A6.8 6.8 0 1 0 8 1.2ZM8 5a3 3 0 1 1 0 6a3 3 0 1 1 0-6Z',
  leaf: 'M14 2C6 1.4 1.6 5.6 2 14C10.400 14.600 14.600 10.400 14 2Z',
  bar: 'M.8 5.2h14.400v5.600H.8Z',
  star: 'M8 .8 10 6 15.400 6.200 11.200 9.600 12.600 14.800 8 11.800 3.400 14.800 4.800 9.600.6 6.200 6 6Z',
}
</script>

<template>
  <svg class="mark" :width="size" :height="size" viewBox="0 0 16 16" aria-hidden="true">
    <path :d="SHAPES[mark]" :fill="colour" fill-rule="evenodd" stroke="var(--ink)" stroke-width="1.1" stroke-linejoin="round" />
  </svg>
</template>

<style scoped>
.mark { flex: none; vertical-align: -3px; }
</style>
