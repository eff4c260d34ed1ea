/** The day that counts as today on this page: its own, said in the address, or the one that counts everywhere. */
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ownDate } from './own-date'
import { useWorkspace } from './workspace'

export function useAsOf() {
  const route = useRoute()
  const router = useRouter()
  const workspace = useWorkspace()
  const own = computed(() => ownDate(route.query[WORD]))
  return {
    /** Null as long as nobody said. */
    asOf: computed(() => own.value ?? workspace.asOf),
    /** Null where the page goes by the one of everywhere. */
    own,
    /** Null gives it up. */
    async setOwn(day: string | null): Promise<void> {
      const { [WORD]: _, ...others } = route.query
      await router.replace({ query: day === null ? others : { ...others, [WORD]: day } })
    },
  }
}

const WORD = 'as-of'
