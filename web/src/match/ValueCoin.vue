<script setup lang="ts">
/** A value with its records, to be chosen and carried. Before they are counted it stands by itself. */
import { computed } from 'vue'
import { count } from '../shared/format'
import { valueWords } from '../shared/words'
import { type Coin, withSpacesShown } from './coins'

const props = withDefaults(defineProps<{ coin: Coin; isChosen: boolean; colour?: string; isTried?: boolean; isCounted?: boolean }>(), { isCounted: true })
const words = computed(() => withSpacesShown(valueWords(props.coin.value)) || '(empty)')
const title = computed(() => (props.coin.others.length === 0 ? undefined : `also written ${props.coin.others.map((one) => `“${withSpacesShown(one)}”`).join(', ')}`))
</script>

<template>
  <button class="plain-button coin" :class="{ chosen: isChosen, none: isCounted && coin.records === 0, tried: isTried }" :style="colour ? { borderColor: `color-mix(in srgb, ${colour} 75%, var(--ink))`, background: `color-mix(in srgb, ${colour} 16%, var(--sheet))` } : undefined" type="button" :data-coin="coin.value" :aria-pressed="isChosen" :title="title">
    <span class="words">{{ words }}</span><span v-if="coin.others.length > 0" class="second more">+{{ coin.others.length }}</span> <span v-if="isCounted" class="figure second">{{ count(coin.records) }}</span>
  </button>
</template>

<style scoped>
.coin { display: inline-flex; align-items: center; gap: 7px; max-width: 100%; min-height: 26px; padding: 0 10px; font-size: 13.5px; border: 1.3px solid var(--hairline); border-radius: 13px; background: var(--sheet); cursor: grab; touch-action: none; user-select: none; }
.words { overflow: hidden; text-overflow: ellipsis; white-space: pre; }
.figure { font-size: 12.5px; }
.more { font-size: 12px; }
/* Their ground is tinted with a colour of any lightness. */
.coin .second { color: color-mix(in srgb, var(--ink) 45%, var(--second)); }
.none { border-style: dashed; color: var(--second); }
.coin:hover { border-color: var(--second); }
.coin.chosen { border-color: var(--brass); background: var(--tint) !important; box-shadow: inset 0 0 0 1px var(--brass); }
.tried { outline: 2px solid var(--brass); outline-offset: 1px; }
</style>
