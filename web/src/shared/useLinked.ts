/** What a link that was handed out leads to: asked for once, and again where that failed. */
import { onMounted, ref, shallowRef } from 'vue'
import type { z } from 'zod'
import { ask, messageOf } from './api'

/** @param title of the page, once it is here */
export function useLinked<Found>(schema: z.ZodType<Found>, path: string, title: (found: Found) => string) {
  const found = shallowRef<Found | null>(null)
  const trouble = ref('')

  async function load(): Promise<void> {
    trouble.value = ''
    try {
      found.value = await ask(schema, path)
      document.title = title(found.value)
    } catch (error) {
      trouble.value = messageOf(error)
    }
  }
  onMounted(load)
  return { found, trouble, load }
}
