<script setup lang="ts">
/** What needs somebody, before all else on the desk. */
import { count } from '../shared/format'
import type { Need } from './needs'

defineProps<{ needs: readonly Need[] }>()
</script>

<template>
  <section class="needs" aria-labelledby="needs-title">
    <h2 id="needs-title">What needs you</h2>
    <p v-if="needs.length === 0" class="second nothing">Nothing: every exception is looked at, what was expected came, and the last runs are fresh.</p>
    <router-link v-for="need in needs" :key="need.of" class="need" :to="need.path" :data-need="need.of">
      <b class="figure number" :class="{ trouble: need.isTrouble }">{{ count(need.number) }}</b>
      <span class="words">{{ need.words }}<span class="second remark">{{ need.remark }}</span></span>
      <span class="way">{{ need.way }}</span>
    </router-link>
  </section>
</template>

<style scoped>
h2 { color: var(--ink) !important; font-size: 15px !important; font-weight: 700 !important; }
.nothing { padding: 14px 0; }
.need { display: grid; grid-template-columns: 76px minmax(0, 1fr) auto; gap: 0 16px; align-items: baseline; padding: 13px 0; border-bottom: 1px solid var(--hairline); color: var(--ink) !important; text-decoration: none; }
.number { font-size: 21px; text-align: right; color: var(--brass); }
.number.trouble { color: var(--brick); }
.remark { display: block; font-size: 13.5px; line-height: 1.4; }
.way { color: var(--pine); font-weight: 600; }
.need:hover .way { text-decoration: underline; text-underline-offset: 3px; }
</style>
