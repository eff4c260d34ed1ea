<script setup lang="ts">
/** Under the line: the chosen cut, whose its value is, and whose all cut values are. */
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { bandsOf } from '@dime-gate/core/gate/scale-gate'
import { computed } from 'vue'
import MarkCoin from '../shared/MarkCoin.vue'
import type { AxisWords } from './axis-words'

const props = defineProps<{ gate: ScaleGate; selected: number | null; words: AxisWords }>()
const emit = defineEmits<{
  owner: [cut: number, owner: 'below' | 'above']
  owners: [owner: 'below' | 'above']
  remove: [cut: number, keep: 'below' | 'above']
}>()

const cut = computed(() => (props.selected === null ? null : (props.gate.cuts[props.selected] ?? null)))
const sides = computed(() => {
  const index = props.selected
  if (cut.value === null || index === null) return []
  return (['below', 'above'] as const).map((side) => ({ side, band: bandsOf(props.gate)[side === 'below' ? index : index + 1]! }))
})
/** Null where cut values go to both sides. */
const all = computed(() => (['below', 'above'] as const).find((side) => props.gate.cuts.every(({ owner }) => owner === side)) ?? null)
</script>

<template>
  <div class="owners">
    <template v-if="cut && selected !== null">
      <span>The value <b class="figure">{{ words.say(cut.at) }}</b> belongs to</span>
      <span class="sides" role="radiogroup" :aria-label="`The value ${words.say(cut.at)} belongs to`">
        <button v-for="{ side, band } in sides" :key="side" class="plain-button side" :class="{ chosen: cut.owner === side }" type="button" role="radio" :aria-checked="cut.owner === side" :data-side="side" @click="emit('owner', selected, side)">
          <MarkCoin :mark="band.mark" :colour="band.colour" :size="13" /> {{ band.label }}
        </button>
      </span>
      <span class="second">remove the cut and keep</span>
      <button v-for="{ side, band } in sides" :key="side" class="plain-button act" type="button" :aria-label="`Remove, keep ${band.label}`" @click="emit('remove', selected, side)">{{ band.label }}</button>
    </template>
    <span v-else-if="gate.cuts.length > 0" class="second">Drag a post, or focus it and use the arrow keys. <kbd>O</kbd> changes whose its value is, <kbd>Del</kbd> removes it.</span>
    <span v-else class="second">Click the strip under the values to cut there.</span>
    <span class="all"><slot />
      <template v-if="gate.cuts.length > 1"><span class="second">every cut value goes</span>
      <button v-for="side in (['below', 'above'] as const)" :key="side" class="plain-button act" type="button" :aria-pressed="all === side" :aria-label="`${side === 'below' ? 'down' : 'up'}: every cut value goes to the band ${side} it`" @click="emit('owners', side)">{{ side === 'below' ? 'down' : 'up' }}</button></template>
    </span>
  </div>
</template>

<style scoped>
.owners { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 12px; min-height: 34px; padding-bottom: 3px; font-size: 13.5px; }
.sides { display: inline-flex; border: 1px solid var(--hairline); border-radius: 4px; background: var(--sheet); min-width: 0; }
.side { max-width: 170px; min-height: 26px; padding: 0 9px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; border-radius: 3px; color: var(--second); }
.side.chosen { background: var(--tint); outline: 1.5px solid var(--brass); color: var(--ink); font-weight: 600; }
.act { max-width: 150px; min-height: 26px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--pine); font-weight: 600; }
.act[aria-pressed='true'] { color: var(--ink); text-decoration: underline; text-decoration-color: var(--brass); text-decoration-thickness: 2px; text-underline-offset: 4px; }
.all { display: inline-flex; flex-wrap: wrap; gap: 2px 9px; align-items: center; margin-left: auto; }
.owners kbd { margin: 0 2px; }
</style>
