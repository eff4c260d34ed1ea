import { type WorkspaceChange, workspaceSchema } from '@dime-gate/contract/desk'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { ask, askWith } from './api'

/** What holds for everything: the as-of date. */
export const useWorkspace = defineStore('workspace', () => {
  const asOf = ref<string | null>(null)
  const isToday = ref(false)
  const take = (now: { asOf: string; isToday: boolean }) => void ([asOf.value, isToday.value] = [now.asOf, now.isToday])
  return {
    asOf,
    /** Whether it is whatever day it is. */
    isToday,
    async load() {
      take(await ask(workspaceSchema, '/workspace'))
    },
    async change(asOf: WorkspaceChange['asOf']) {
      take(await askWith(workspaceSchema, 'PUT', '/workspace', { asOf }))
    },
  }
})
