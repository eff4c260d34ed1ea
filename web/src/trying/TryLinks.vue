<script setup lang="ts">
/** Links by which others can try a version of the gate with values of their own. */
import { type Link, linksSchema } from '@dime-gate/contract/slip'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, askWith } from '../shared/api'
import AskFirst from '../shared/AskFirst.vue'
import { date } from '../shared/format'
import { dayFromNow, isOver, useCopying } from '../shared/link-words'
import { useTelling } from '../shared/useTelling'

const props = defineProps<{ gateId: number; version: number }>()
const links = shallowRef<Link[]>([])
const endsOn = ref(dayFromNow(30))
const { trouble, tell } = useTelling()
const copy = useCopying()
const own = computed(() => links.value.filter(({ gateVersion }) => gateVersion === props.version))
const addressOf = ({ token }: Link) => `${location.origin}/try/${token}`

onMounted(() => tell(async () => void (links.value = await ask(linksSchema, `/gates/${props.gateId}/try-links`))))
const make = () => tell(async () => void (links.value = await askWith(linksSchema, 'POST', `/gates/${props.gateId}/try-links`, { version: props.version, endsOn: endsOn.value })))
const withdraw = ({ id }: Link) => tell(async () => void (links.value = await askWith(linksSchema, 'DELETE', `/gates/${props.gateId}/try-links/${id}`, {})))
</script>

<template>
  <section class="try-links">
    <h2>For others to try</h2>
    <p v-if="own.length === 0" class="second">A link to a page where anybody types values of their own, and reads what they get and why. Nothing is kept of it.</p>
    <p v-for="link in own" :key="link.id" class="one"><a :href="addressOf(link)" target="_blank" rel="noopener">The page</a><span class="second">{{ isOver(link.endsOn) ? 'ended on' : 'until' }} {{ date(link.endsOn) }}</span><v-btn class="plain" @click="copy(addressOf(link))">Copy</v-btn><AskFirst label="Withdraw" question="It leads nowhere from then on, and a new one has another address." @sure="withdraw(link)" /></p>
    <p class="one"><label>until <input v-model="endsOn" type="date" :min="dayFromNow(0)"></label><v-btn class="plain" @click="make">Make a link</v-btn></p>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.try-links { display: grid; gap: 3px; width: 100%; }
.one { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 8px; }
input { height: 26px; font: inherit; color: var(--ink); background: none; border: 0; border-bottom: 1.5px solid var(--second); }
</style>
