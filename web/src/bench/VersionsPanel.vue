<script setup lang="ts">
/** The versions of the gate: what is said of the next one, and what differs between each and the draft, in words and in records. */
import { deskSchema } from '@dime-gate/contract/desk'
import { type VersionSummary, versionSummarySchema } from '@dime-gate/contract/gate'
import { gateDocumentSchema } from '@dime-gate/contract/gate-document'
import { changesBetween } from '@dime-gate/core/gate/changes'
import type { Gate } from '@dime-gate/core/gate/document'
import type { RunSummary } from '@dime-gate/contract/run'
import type { LabelLook, Tray } from '@dime-gate/core/result/tray'
import { shallowRef, watch } from 'vue'
import { z } from 'zod'
import MoveList from '../records/MoveList.vue'
import type { ToldMoves } from '../records/session'
import { ask } from '../shared/api'
import { counted, moment } from '../shared/format'
import { useTelling } from '../shared/useTelling'
import { listed } from '../shared/words'
import TryLinks from '../trying/TryLinks.vue'
import { useDraft } from './gate-draft'
import { changeWords } from './version-words'

/** @property compare tells which records a state of the gate gives other labels than the draft does; null where it cannot @property alsoIn names other gates that say the same as this one of a named condition, and would say what that state of the gate says */
const props = defineProps<{ id: number; gate: Gate; labels: LabelLook[]; tick: number; compare: (gate: Gate) => Promise<ToldMoves | null>; alsoIn: (gate: Gate) => string[] }>()
const emit = defineEmits<{ show: [tray: Tray]; back: [gate: Gate] }>()

const bench = useDraft()
const versions = shallowRef<VersionSummary[]>([])
const chosen = shallowRef<{ number: number; gate: Gate } | null>(null)
/** Undefined as long as it is worked out. */
const moved = shallowRef<ToldMoves | null | undefined>(undefined)
const { trouble, tell } = useTelling()
/** The last of its table; the draft can be held against it. */
const lastRun = shallowRef<RunSummary | null>(null)

watch(() => bench.binding?.tableId, (tableId) => tell(async () => {
  const { runs } = await ask(deskSchema, '/desk')
  lastRun.value = runs.find((run) => run.gateId === props.id && run.tableId === tableId && run.state === 'done') ?? null
}), { immediate: true })
watch(() => bench.stored?.latestVersion, () => tell(async () => void (versions.value = await ask(z.array(versionSummarySchema), `/gates/${props.id}/versions`))), { immediate: true })

function choose(number: number): void {
  if (chosen.value?.number === number) return void (chosen.value = null)
  void tell(async () => {
    chosen.value = { number, gate: await ask(gateDocumentSchema, `/gates/${props.id}/versions/${number}`) }
  })
}

// Follows the draft: what moves is told of it as it is.
watch([chosen, () => props.tick], async ([now]) => {
  if (!now) return
  const found = await props.compare({ ...now.gate, name: props.gate.name })
  if (chosen.value === now && found) moved.value = found
})
watch(chosen, () => (moved.value = undefined))

const changes = (of: Gate) => changesBetween({ ...of, name: props.gate.name }, props.gate).map((change) => changeWords(change, of, props.gate))
</script>

<template>
  <section>
    <label v-if="bench.isNew" class="note">What is said of the next version<input v-model="bench.note" maxlength="500" placeholder="why it is as it is now"></label>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <router-link :to="{ path: '/compare', query: { on: bench.binding?.tableId, a: `gate ${id} draft` } }">Side by side with another gate, or a column<kbd>B</kbd></router-link>
    <p v-if="versions.length === 0 && !trouble" class="second">No version is set yet. A version is the gate as it stood; runs are of versions.</p>
    <ol>
      <li v-for="version in versions" :key="version.number" :data-version="version.number">
        <button class="plain-button head" type="button" :aria-expanded="chosen?.number === version.number" @click="choose(version.number)"><b>Version {{ version.number }}</b> <span class="second">{{ moment(version.setAt) }}</span><span v-if="version.note" class="said">{{ version.note }}</span></button>
        <div v-if="chosen?.number === version.number" class="differs">
          <h2>The draft differs</h2>
          <p v-if="changes(chosen.gate).length === 0" class="second">in nothing</p>
          <ul><li v-for="words in changes(chosen.gate)" :key="words" class="change">{{ words }}</li></ul>
          <h2>Records that move</h2>
          <p v-if="moved === undefined" class="second">Looking …</p>
          <p v-else-if="moved === null" class="second">That cannot be told: one of the two cannot decide here.</p>
          <template v-else>
            <p v-if="moved.moves.length === 0" class="second">none; {{ counted(moved.stayed, 'record stays', 'records stay') }} where it is</p>
            <MoveList :moves="moved.moves" :labels="labels" @show="emit('show', $event)" />
          </template>
          <p v-if="alsoIn(chosen.gate).length > 0" class="second">Named conditions say then what they said, also in {{ listed(alsoIn(chosen.gate)) }}.</p>
          <TryLinks :gate-id="id" :version="version.number" />
          <v-btn v-if="changes(chosen.gate).length > 0" size="small" @click="emit('back', { ...chosen.gate, name: gate.name })">Go back to this one</v-btn>
        </div>
      </li>
    </ol>
    <router-link v-if="lastRun" :to="`/runs/${lastRun.id}/against/draft`">The draft against run {{ lastRun.number }}, and why each record would move</router-link>
  </section>
</template>

<style scoped>
section { display: grid; gap: 8px; }
ol, ul { list-style: none; margin: 0; padding: 0; }
ol > li { border-bottom: 1px solid var(--hairline); }
.note { display: grid; gap: 2px; font-size: 13px; color: var(--second); }
.note input { height: 28px; padding: 0 4px; font: inherit; font-size: 14px; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
.head { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 0 10px; width: 100%; padding: 6px 0; min-height: 32px; }
.head:hover b { text-decoration: underline; }
.said { flex-basis: 100%; font-size: 13px; overflow-wrap: anywhere; }
.differs { display: grid; gap: 6px; justify-items: start; padding: 2px 0 12px; font-size: 13.5px; }
.differs ul { width: 100%; }
.change { padding: 2px 0; overflow-wrap: anywhere; }
</style>
