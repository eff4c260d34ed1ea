<script setup lang="ts">
/** The trays of a run: coins stacked in tubes, one tube a label, and those without one beside them. */
import type { Counts } from '@dime-gate/core/result/counts'
import { AFTER_RULES } from '@dime-gate/core/bulk/decisions'
import { COMPUTED, type LabelLook, type Tray, trayName } from '@dime-gate/core/result/tray'
import { computed } from 'vue'
import { messageOf } from '../shared/api'
import { vMeaning } from '../help/v-meaning'
import { count, share } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { useNotices } from '../shared/notices'
import { chartSvg, pngOf, takeFile } from './chart-picture'
import { coinsOf, recordsPerCoin } from './coin-stacks'

/** @property title of a picture that is taken, and what it is about @property expected by the name of a tray, between how many records it is expected to have; an end that is open is null */
const props = defineProps<{ labels: (LabelLook & { records: number })[]; otherwise: LabelLook | null; counts: Counts; tray: Tray; expected: ReadonlyMap<string, { low: number | null; high: number | null; isMissed: boolean }[]>; title: string; about: string }>()
const emit = defineEmits<{ show: [tray: Tray] }>()

const notices = useNotices()
const HEIGHT = 208
/** A coin is drawn between these heights, in pixels: thin enough to fit, thick enough to count. */
const COIN = { least: 3.5, most: 8 }

/** More than that have no room beside one another for their names: they lie below one another. */
const MOST_UPRIGHT = 9

const all = computed(() => {
  // A label that only otherwise gives has its records in that tray.
  const labelled = props.labels.filter(({ label, records }) => records > 0 || label !== props.otherwise?.label).map(({ label, colour, mark, records }) => ({ tray: { kind: 'label', label: label === COMPUTED ? null : label } as Tray, name: label === '' ? 'no value' : label, colour, mark, records }))
  const others = AFTER_RULES.map((kind) => {
    const look = kind === 'otherwise' ? props.otherwise : null
    return { tray: { kind } as Tray, name: look ? `otherwise: ${look.label}` : kind, colour: look?.colour ?? 'var(--hairline)', mark: look?.mark ?? null, records: props.counts[kind] }
  })
  return [...labelled, ...others.filter(({ tray, records }) => records > 0 || props.expected.has(trayName(tray)))]
})
const perCoin = computed(() => recordsPerCoin(all.value.map(({ records }) => records)))
const areRows = computed(() => all.value.length > MOST_UPRIGHT)
/** Coins of the fullest tray. */
const mostCoins = computed(() => Math.ceil(Math.max(1, ...all.value.map(({ records }) => records)) / perCoin.value))
const coin = computed(() => Math.min(COIN.most, Math.max(COIN.least, (HEIGHT - 10) / mostCoins.value)))
/** Where so many records would end, above the foot, or from the left; what is beyond the glass is told at its rim. */
const endOf = (records: number) => (areRows.value ? { left: `${Math.min(100, (100 * records) / perCoin.value / mostCoins.value)}%` } : { bottom: `${Math.min(HEIGHT - 2, (records / perCoin.value) * coin.value + 2)}px` })
const sizeOf = (coins: number) => (areRows.value ? { width: `${(100 * coins) / mostCoins.value}%` } : { height: `${coins * (coin.value - 1)}px` })
const tubes = computed(() => all.value.map((tube) => {
  const { whole, part } = coinsOf(tube.records, perCoin.value)
  const expected = props.expected.get(trayName(tube.tray)) ?? []
  return { ...tube, key: trayName(tube.tray), whole, part, isMissed: expected.some(({ isMissed }) => isMissed), lines: [...new Set(expected.flatMap(({ low, high }) => [low, high]))].flatMap((end) => (end === null ? [] : [{ end, at: endOf(end) }])), height: Math.max(16, (whole + (part > 0 ? 1 : 0)) * coin.value + 10), isShown: trayName(tube.tray) === trayName(props.tray) }
}))

/** Otherwise and what has no label are grey where they have no colour of their own. */
const PLAIN = '#b9b6a9'
async function takePicture(format: 'svg' | 'png'): Promise<void> {
  const svg = chartSvg({ title: props.title, about: props.about, records: props.counts.records, parts: all.value.map(({ name, colour, records }) => ({ name, records, colour: colour.startsWith('#') ? colour : PLAIN })) })
  try {
    takeFile(format === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : await pngOf(svg), `${props.title}.${format}`)
  } catch (error) {
    notices.warn(messageOf(error))
  }
}
</script>

<template>
  <div class="trays">
    <h2>Trays <span class="worth">one coin is {{ perCoin === 1 ? 'one record' : `${count(perCoin)} records` }}<template v-if="expected.size > 0">, a brass line is what is expected</template></span><v-menu location="bottom end"><template #activator="{ props: menu }"><button v-bind="menu" class="plain-button link" type="button">Picture</button></template><v-list density="compact"><v-list-item title="SVG" @click="takePicture('svg')" /><v-list-item title="PNG" @click="takePicture('png')" /></v-list></v-menu></h2>
    <div class="tubes" :class="{ rows: areRows }" tabindex="0" role="group" aria-label="Trays, in label order">
      <button v-for="tube in tubes" :key="tube.key" v-meaning="tube.tray" class="plain-button tube" :class="{ shown: tube.isShown, slim: !areRows && tubes.length > 5 }" type="button" :aria-pressed="tube.isShown" :data-tube="tube.name" :aria-label="`${count(tube.records)} ${share(tube.records, counts.records)} ${tube.name}. Show these records`" @click="emit('show', tube.tray)">
        <span class="figure records" :class="{ trouble: tube.isMissed }">{{ count(tube.records) }}</span>
        <span class="second part">{{ share(tube.records, counts.records) }}</span>
        <span class="glass" :style="areRows ? {} : { height: `${Math.min(HEIGHT, tube.height)}px` }" aria-hidden="true">
          <span v-for="one in tube.whole" :key="one" class="coin" :style="{ ...sizeOf(1), background: tube.colour }" />
          <span v-if="tube.part > 0" class="coin" :style="{ ...sizeOf(areRows ? tube.part : 1), background: tube.colour, opacity: areRows ? 1 : 0.25 + 0.6 * tube.part }" />
          <span v-for="line in tube.lines" :key="line.end" class="line" :style="line.at" />
        </span>
        <span class="foot"><MarkCoin v-if="tube.mark" :mark="tube.mark" :colour="tube.colour" /><span class="name" :class="{ second: !tube.mark }">{{ tube.name }}</span></span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.trays { display: grid; grid-template-rows: auto 1fr; }
.worth { font-weight: 400; margin-left: 8px; }
h2 { display: flex; align-items: baseline; }
.link { margin-left: auto; min-height: 24px; color: var(--pine); }
.tubes { display: flex; align-items: end; gap: 10px; overflow-x: auto; padding: 4px 2px 2px; }
.tube { display: grid; grid-template-rows: auto auto auto 56px; justify-items: center; flex: 1 1 0; min-width: 56px; max-width: 104px; padding: 2px 0 0; border-radius: 4px; }
.tube.slim { min-width: 44px; }
.tubes:has(.slim) { gap: 4px; }
.slim .records { font-size: 15px; }
.slim .name { font-size: 12px; }
.tubes.rows { display: grid; gap: 0; align-content: start; align-items: center; max-height: 288px; overflow-y: auto; }
.rows .tube { grid-template: 24px / minmax(92px, 30%) minmax(0, 1fr) 52px 54px; gap: 0 8px; align-items: center; justify-items: start; width: 100%; max-width: none; padding: 0 4px 0 0; border-bottom: 1px solid var(--hairline); border-radius: 0; }
.rows .foot { order: -1; display: flex; align-items: center; gap: 6px; padding: 0; }
.rows .name { max-height: none; text-align: left; white-space: nowrap; text-overflow: ellipsis; }
.rows .glass { order: 0; flex-direction: row; gap: 0; height: 14px; padding: 0; border: 0; border-left: 1.5px solid var(--second); }
.rows .coin { height: 100%; box-shadow: inset -1px 0 0 var(--ground); }
.rows .line { left: auto; right: auto; top: -4px; bottom: -4px; width: 3px; height: auto; }
.rows .records { order: 1; justify-self: end; font-size: 14.5px; }
.rows .part { order: 2; justify-self: end; padding: 0; }
@media (max-width: 480px) { .slim .name { font-size: 11px; letter-spacing: -0.2px; } }
.records { font-size: 18px; font-weight: 600; line-height: 1.2; }
.part { font-size: 12.5px; padding-bottom: 4px; }
.glass { position: relative; display: flex; flex-direction: column-reverse; gap: 1px; width: 100%; padding: 2px 4px; border: 1.5px solid var(--second); border-top: 0; border-radius: 0 0 3px 3px; }
.line { position: absolute; left: -5px; right: -5px; height: 3px; background: var(--brass); border-radius: 1px; }
.coin { flex: none; border-radius: 1.5px; }
.foot { display: grid; justify-items: center; align-content: start; gap: 1px; padding-top: 5px; max-width: 100%; }
.name { max-width: 100%; max-height: 34px; overflow: hidden; overflow-wrap: anywhere; text-align: center; line-height: 1.3; font-weight: 600; font-size: 13px; }
.shown { background: var(--tint); }
.tube:hover .name { text-decoration: underline; }
</style>
