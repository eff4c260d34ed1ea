<script setup lang="ts">
/** All gates, with what they give. */
import type { GateSummary } from '@dime-gate/contract/gate'
import MarkCoin from '../shared/MarkCoin.vue'
import { FORM_WORDS } from '../shared/words'
import ItemActions from './ItemActions.vue'

/** @property isManaged whether the shelf stands by itself, with what can be done with its things */
defineProps<{ gates: GateSummary[]; isManaged: boolean }>()
const emit = defineEmits<{ copy: [gate: GateSummary]; remove: [gate: GateSummary] }>()
</script>

<template>
  <section id="gates" aria-labelledby="gates-title">
    <h2 id="gates-title">Gates <span class="figure">{{ gates.length }}</span></h2>
    <p v-if="gates.length === 0" class="second empty">No gate yet. Choose “New gate” beside a table to write its rules, or to cut one of its columns.</p>
    <div v-for="gate in gates" :key="gate.id" class="managed">
      <router-link class="item" :to="`/gates/${gate.id}`" :data-gate="gate.name">
      <span class="name">{{ gate.name }}</span>
      <span class="second">{{ FORM_WORDS[gate.form] }}, {{ gate.latestVersion === 0 ? 'no version set' : `version ${gate.latestVersion}` }}</span>
      <span class="second wide">{{ gate.tables.length === 0 ? 'on no table yet' : `on ${gate.tables.map(({ name }) => name).join(', ')}` }}</span>
      <span class="wide labels">
        <span v-for="(band, index) in gate.labels.slice(0, 8)" :key="index"><MarkCoin :mark="band.mark" :colour="band.colour" :size="13" /> {{ band.label }}</span>
        <span v-if="gate.labels.length > 8" class="second">and {{ gate.labels.length - 8 }} more</span>
      </span>
    </router-link>
      <ItemActions v-if="isManaged" :name="gate.name" can-copy @copy="emit('copy', gate)" @remove="emit('remove', gate)" />
    </div>
  </section>
</template>

<style scoped src="./shelf.css"></style>
