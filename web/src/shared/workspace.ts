import { workspaceSchema } from '@dime-gate/contract/desk'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { ask, askWith } from './api'

/** What holds for everything: the as-of date. */
export const useWorkspace = defineStore('workspace', () => {
  const asOf = ref<string | null>(null)
  return {
    asOf,
    async load() {
      asOf.value = (await ask(workspaceSchema, '/workspace')).asOf
    },
    async change(date: string) {
      asOf.value = (await askWith(workspaceSchema, 'PUT', '/workspace', { asOf: date })).asOf
    },
  }
})
