<script setup lang="ts">
/** What is beside the line: the chosen cut and whose its value is. */
import { PALETTE_NAMES, paletteColours, type PaletteName } from '@dime-gate/core/gate/palette'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { computed } from 'vue'
import { number } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'

const props = defineProps<{ gate: ScaleGate; selected: number | null }>()
const emit = defineEmits<{
  owner: [cut: number, owner: 'below' | 'above']
  remove: [cut: number, keep: 'below' | 'above']
  palette: [name: PaletteName]
}>()

const cut = computed(() => (props.selected === null ? null : (props.gate.cuts[props.selected] ?? null)))
const sides = computed(() => {
  const index = props.selected
  if (cut.value === null || index === null) return []
  return (['below', 'above'] as const).map((side) => ({ side, band: bandsOf(props.gate)[side === 'below' ? index : index + 1]! }))
})

</script>

<template>
  <aside aria-label="Beside the line">
    <section>
      <h2 v-if="cut && selected !== null">Cut at <b class="figure">{{ number(cut.at) }}</b> belongs to</h2>
      <h2 v-else>Choose a cut to say whose its value is</h2>
      <div v-if="cut && selected !== null" class="sides" role="radiogroup" :aria-label="`The value ${cut.at} belongs to`">
        <button v-for="{ side, band } in sides" :key="side" class="plain-button side" :class="{ chosen: cut.owner === side }" type="button" role="radio" :aria-checked="cut.owner === side" :data-side="side" @click="emit('owner', selected, side)">
          <MarkCoin :mark="band.mark" :colour="band.colour" /> {{ band.label }}
        </button>
      </div>
      <p v-if="cut && selected !== null" class="small">
        <button class="plain-button act" type="button" @click="emit('remove', selected, 'below')">Remove, keep {{ sides[0]?.band.label }}</button>
        <button class="plain-button act" type="button" @click="emit('remove', selected, 'above')">keep {{ sides[1]?.band.label }}</button>
      </p>
      <p v-else class="second small">Drag a post, or focus it and use the arrow keys. <kbd>O</kbd> changes the owner, <kbd>Del</kbd> removes.</p>
    </section>
    <slot />
    <section class="palettes" aria-label="Colours of the bands">
      <button v-for="name in PALETTE_NAMES" :key="name" class="plain-button palette" type="button" :title="`Colour the bands ${name}`" @click="emit('palette', name)">
        <span v-for="colour in paletteColours(name, 4)" :key="colour" :style="{ background: colour }" class="swatch" /> {{ name }}
      </button>
    </section>
  </aside>
</template>

<style scoped>
aside { display: flex; flex-direction: column; gap: 12px; min-width: 0; }
section { display: grid; gap: 5px; }
.sides { display: grid; grid-template-columns: 1fr 1fr; border: 1px solid var(--hairline); border-radius: 4px; background: var(--sheet); }
.side { padding: 5px 8px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; border-radius: 3px; color: var(--second); }
.side.chosen { background: var(--tint); outline: 1.5px solid var(--brass); color: var(--ink); font-weight: 600; }
.small { font-size: 13px; display: flex; gap: 2px 12px; flex-wrap: wrap; align-items: center; }
.small kbd { margin: 0 -6px 0 0; }
.act { color: var(--pine); font-weight: 600; }
.palettes { display: flex; flex-wrap: wrap; gap: 0 10px; }
.palette { font-size: 12.5px; color: var(--second); min-height: 24px; }
.swatch { display: inline-block; width: 7px; height: 9px; }
</style>
