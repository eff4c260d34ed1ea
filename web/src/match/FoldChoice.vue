<script setup lang="ts">
/** Whether case and spaces count, and what becomes one where they do not: told before it is chosen. */
import type { MatchGate } from '@dime-gate/core/gate/document'
import { joinedByFolding, setFolds } from '@dime-gate/core/gate/edit-match'
import { labelGiven } from '@dime-gate/core/gate/entries'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import { computed } from 'vue'
import { count, counted } from '../shared/format'
import { withSpacesShown } from './coins'

const props = defineProps<{ gate: MatchGate; values: CommonValues['values'] }>()
const emit = defineEmits<{ change: [gate: MatchGate] }>()

const MOST_SHOWN = 8
const isText = computed(() => props.gate.inputs.find(({ name }) => name === props.gate.on)?.type === 'text')
const joined = computed(() => joinedByFolding(props.gate, props.values.map(({ text }) => text)))
const trayName = (at: number | null) => (at === null ? 'on the rail' : `in ${labelGiven(props.gate.lines[at]!.entries) ?? 'a tray'}`)
/** Spellings that lie in different trays. */
const apart = computed(() => joined.value.filter(({ trays }) => new Set(trays.filter((at) => at !== null)).size > 1))
</script>

<template>
  <v-menu v-if="isText" :close-on-content-click="false">
    <template #activator="{ props: menu }"><button v-bind="menu" class="plain-button fold" type="button">case and spaces {{ gate.folds ? 'do not count' : 'count' }}</button></template>
    <v-card class="pa-3 told" max-width="380">
      <p v-if="joined.length === 0">No two values differ only by case or spaces.</p>
      <template v-else>
        <p>{{ gate.folds ? 'One value of several spellings:' : `If they did not count, ${counted(joined.length, 'value')} of several spellings would be one each:` }}</p>
        <ul>
          <li v-for="one in joined.slice(0, MOST_SHOWN)" :key="one.values[0]"><template v-for="(value, at) in one.values" :key="value"><template v-if="at > 0">, </template>“{{ withSpacesShown(value) }}” <span v-if="!gate.folds" class="second">{{ trayName(one.trays[at]!) }}</span></template></li>
        </ul>
        <p v-if="joined.length > MOST_SHOWN" class="second">and {{ count(joined.length - MOST_SHOWN) }} more</p>
        <p v-if="!gate.folds && apart.length > 0" class="trouble">{{ counted(apart.length, 'of them lies', 'of them lie') }} in different trays: the first keeps it.</p>
      </template>
      <v-btn size="small" class="mt-2" @click="emit('change', setFolds(gate, !gate.folds))">{{ gate.folds ? 'Let case and spaces count' : 'Let case and spaces not count' }}</v-btn>
    </v-card>
  </v-menu>
</template>

<style scoped>
.fold { min-height: 26px; color: var(--pine); border-bottom: 1.5px dotted currentColor; }
.told { display: grid; gap: 4px; font-size: 13.5px; }
ul { margin: 0; padding-left: 18px; }
</style>
