<script setup lang="ts">
/** What is beside the line: the chosen cut and whose its value is, what to look at, and one value to try. */
import { decideRecord } from '@dime-gate/core/decide/decide-record'
import { PALETTE_NAMES, paletteColours, type PaletteName } from '@dime-gate/core/gate/palette'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import { lowered } from '@dime-gate/core/rule/lower'
import { bandsOf, scaleInput } from '@dime-gate/core/gate/scale-gate'
import { numberFromText } from '@dime-gate/core/value/value-text'
import { reasonOf } from '@dime-gate/core/run/reason'
import type { ScaleCounts, Tray } from '@dime-gate/core/run/scale-result'
import { computed, ref } from 'vue'
import { count, number, share, typedNumber } from '../shared/format'
import MarkCoin from '../shared/MarkCoin.vue'
import { reasonWords, trayWords } from '../shared/words'

const props = defineProps<{ gate: ScaleGate; counts: ScaleCounts | null; selected: number | null; tray: Tray }>()
const emit = defineEmits<{
  owner: [cut: number, owner: 'below' | 'above']
  remove: [cut: number, keep: 'below' | 'above']
  palette: [name: PaletteName]
  show: [tray: Tray]
}>()

const cut = computed(() => (props.selected === null ? null : (props.gate.cuts[props.selected] ?? null)))
const sides = computed(() => {
  const index = props.selected
  if (cut.value === null || index === null) return []
  return (['below', 'above'] as const).map((side) => ({ side, band: bandsOf(props.gate)[side === 'below' ? index : index + 1]! }))
})

const trays = computed(() => {
  const { counts } = props
  if (!counts) return []
  const onCut = counts.onCut.reduce((sum, records) => sum + records, 0)
  const blank = counts.held > 0 ? `${count(counts.blank)} blank, ${count(counts.unreadable)} unreadable` : 'none has a blank'
  return [
    { tray: { kind: 'on-a-cut' } as Tray, records: onCut, remark: 'value equals a cut' },
    { tray: { kind: 'held' } as Tray, records: counts.held, remark: blank },
    { tray: { kind: 'unreadable' } as Tray, records: counts.unreadable, remark: 'text, not a number' },
    { tray: { kind: 'unplaced' } as Tray, records: counts.unplaced, remark: props.gate.floor || props.gate.ceiling ? 'beyond an end' : 'it has no ends' },
  ]
})

/** A scale on a measured number asks for no day. */
const ANY_DAY = { kind: 'date', day: 0 } as const
const input = computed(() => scaleInput(props.gate))
const typed = ref('')
const trial = computed(() => {
  const text = typed.value.trim()
  const value = typedNumber(text)
  const decision = decideRecord(lowered(props.gate), () => (value === null ? null : numberFromText(value)), ANY_DAY)
  const band = bandsOf(props.gate)[decision.rule] ?? null
  const reason = reasonOf(props.gate, { value, unreadable: text !== '' && value === null ? text : null })
  return { band, status: decision.status, reason: reason ? reasonWords(reason) : '', distance: value === null ? '' : distanceWords(Number(value)) }
})

/** How far the value lies from the cut nearest to it. */
function distanceWords(value: number): string {
  const near = props.gate.cuts.map(({ at }) => ({ at, away: Number((value - Number(at)).toPrecision(12)) })).sort((a, b) => Math.abs(a.away) - Math.abs(b.away))[0]
  if (!near || near.away === 0) return ''
  return `${number(String(Math.abs(near.away)))} ${near.away < 0 ? 'short of' : 'past'} the cut at ${number(near.at)}`
}
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
    <section>
      <h2>To look at</h2>
      <button v-for="{ tray: wanted, records, remark } in trays" :key="wanted.kind" class="plain-button line" :class="{ shown: tray.kind === wanted.kind }" type="button" :disabled="records === 0" :aria-pressed="tray.kind === wanted.kind" :data-tray="wanted.kind" @click="emit('show', tray.kind === wanted.kind ? { kind: 'all' } : wanted)">
        <b>{{ trayWords(wanted, gate) }}</b> <span class="second remark">{{ remark }}</span> <span class="figure records">{{ count(records) }}</span><span class="figure second part">{{ share(records, counts?.records ?? 0) }}</span>
      </button>
    </section>
    <section>
      <h2>Try one value</h2>
      <div class="trial">
        <label>{{ input.name }} <input v-model="typed" class="figure" inputmode="decimal" placeholder="blank" maxlength="42"> {{ input.unit }}</label>
        <span class="second" aria-hidden="true">→</span>
        <output>
          <template v-if="trial.band"><MarkCoin :mark="trial.band.mark" :colour="trial.band.colour" /> <b>{{ trial.band.label }}</b></template>
          <b v-else class="second">{{ trial.status }}</b>
        </output>
      </div>
      <p class="second small">{{ trial.reason || trial.distance || '\u00a0' }}</p>
    </section>
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
.line { display: grid; grid-template-columns: auto 1fr auto 52px; gap: 8px; align-items: baseline; padding: 4px 6px; margin: 0 -6px; border-bottom: 1px solid var(--hairline); }
.line:disabled { cursor: default; color: var(--second); }
.line:not(:disabled):hover b { text-decoration: underline; }
.line.shown { background: var(--tint); }
.remark { font-size: 13px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.records { font-weight: 600; }
.part { font-size: 12.5px; text-align: right; }
.trial { display: flex; gap: 10px; align-items: center; }
.trial input { width: 74px; height: 26px; margin: 0 4px; padding: 0 4px; font-size: 16px; color: var(--ink); background: none; border: 0; border-bottom: 2px solid var(--brass); border-radius: 0; }
.palettes { display: flex; flex-wrap: wrap; gap: 0 10px; }
.palette { font-size: 12.5px; color: var(--second); min-height: 24px; }
.swatch { display: inline-block; width: 7px; height: 9px; }
</style>
