import { computed, effectScope, shallowRef, watch } from 'vue'
import { useHeld } from './useHeld'

test('what hangs on it is told only where it is another, and then at once', () => {
  effectScope().run(() => {
    const gate = shallowRef({ inputs: ['Decay'], rules: 1 })
    const held = useHeld(() => gate.value.inputs)
    let asked = 0
    const first = computed(() => (asked++, held.value[0]))
    const told: unknown[] = []
    watch(first, (now) => told.push(now), { flush: 'sync', immediate: true })
    for (let rules = 2; rules < 6; rules++) gate.value = { ...gate.value, rules }
    expect([asked, told]).toEqual([1, ['Decay']])
    gate.value = { ...gate.value, inputs: ['Lean'] }
    expect([asked, told]).toEqual([2, ['Decay', 'Lean']])
  })
})
