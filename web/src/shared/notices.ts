/** Short messages that come and go, with a way back where there is one. */
import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Notice {
  text: string
  problem?: boolean
}

export const useNotices = defineStore('notices', () => {
  const current = ref<Notice | null>(null)
  return {
    current,
    say: (text: string) => (current.value = { text }),
    warn: (text: string) => (current.value = { text, problem: true }),
    clear: () => (current.value = null),
  }
})
