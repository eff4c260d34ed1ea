<script setup lang="ts">
/** A label’s mark, and the choice of another mark or colour. */
import { MARKS } from '@dime-gate/core/gate/mark'
import { paletteColours } from '@dime-gate/core/gate/palette'
import type { Band } from '@dime-gate/core/gate/scale-gate'
import MarkCoin from './MarkCoin.vue'

defineProps<{ band: Band }>()
const emit = defineEmits<{ change: [change: Partial<Band>] }>()

const COLOURS = [...new Set([...paletteColours('good to bad', 4), ...paletteColours('ordered', 4), ...paletteColours('unordered', 10)])]
</script>

<template>
  <v-menu :close-on-content-click="false" location="end">
    <template #activator="{ props }">
      <button v-bind="props" class="plain-button look" type="button" :aria-label="`Mark and colour of ${band.label}`"><MarkCoin :mark="band.mark" :colour="band.colour" /></button>
    </template>
    <v-card class="pa-3" width="236">
      <h2>Mark</h2>
      <div class="choices">
        <button v-for="mark in MARKS" :key="mark" class="plain-button choice" :class="{ chosen: mark === band.mark }" type="button" :aria-label="mark" :aria-pressed="mark === band.mark" @click="emit('change', { mark })">
          <MarkCoin :mark="mark" :colour="band.colour" :size="18" />
        </button>
      </div>
      <h2 class="pt-3">Colour</h2>
      <div class="choices">
        <button v-for="colour in COLOURS" :key="colour" class="plain-button choice" :class="{ chosen: colour === band.colour }" type="button" :aria-label="`Colour ${colour}`" :aria-pressed="colour === band.colour" @click="emit('change', { colour })">
          <MarkCoin :mark="band.mark" :colour="colour" :size="18" />
        </button>
        <label class="own">own <input type="color" :value="band.colour" @change="emit('change', { colour: ($event.target as HTMLInputElement).value })"></label>
      </div>
    </v-card>
  </v-menu>
</template>

<style scoped>
.look { display: grid; place-items: center; width: 24px; height: 24px; }
.choices { display: flex; flex-wrap: wrap; gap: 2px; margin-top: 4px; }
.choice { display: grid; place-items: center; width: 30px; height: 30px; border-radius: 4px; }
.chosen { background: var(--tint); outline: 1.5px solid var(--brass); outline-offset: -2px; }
.own { display: flex; align-items: center; gap: 6px; margin-left: 6px; font-size: 13px; }
.own input { width: 26px; height: 22px; padding: 0; border: 1px solid var(--hairline); background: none; }
</style>
