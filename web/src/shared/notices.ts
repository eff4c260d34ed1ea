/** Short messages that come and go, with a way back where there is one. */
import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Notice {
  text: string
  problem?: boolean
  /** A way back, or on. */
  act?: { label: string; run: () => void }
}

export const useNotices = defineStore('notices', () => {
  const current = ref<Notice | null>(null)
  return {
    current,
    say: (text: string, act?: Notice['act']) => (current.value = { text, act }),
    warn: (text: string) => (current.value = { text, problem: true }),
    clear: () => (current.value = null),
  }
})
