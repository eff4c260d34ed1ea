/** A gate's highlights: kept on the server, and what they come to on the records that are shown. */
import { type HighlightList, highlightListSchema } from '@dime-gate/contract/highlight'
import type { Highlight } from '@dime-gate/core/highlight/highlight'
import type { CommonValues } from '@dime-gate/core/table/common-values'
import { computed, type Ref, ref, shallowRef, watch } from 'vue'
import type { TableBeside, ToldHighlights } from '../records/session-highlights'
import { ask, askWith, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { useLater } from '../shared/useLater'

export interface HighlightSession {
  beside(table: TableBeside): Promise<void>
  highlight(highlights: Highlight[]): Promise<void>
  toldHighlights(tried?: Highlight[] | null): Promise<ToldHighlights | null>
  highlightChoices(input: string): Promise<CommonValues | null>
}

/** Columns that cannot be fetched now are asked for again with the next count. */
const leaveAsIs = () => undefined

/** So long nothing must change before it is counted: a drag is not held up by it. */
const PAUSE = 200

/**
 * @param gateId null as long as it is not known
 * @param decided changes whenever the session has decided anew; 0 before the first time
 * @param table what else highlights can look at; null as long as it is not known
 */
export function useHighlights(session: HighlightSession, gateId: () => number | null, decided: Ref<number>, table: Ref<TableBeside | null>) {
  const kept = shallowRef<HighlightList>({ version: 0, highlights: [] })
  const told = shallowRef<ToldHighlights | null>(null)
  /** Changes whenever the records may be pointed out otherwise. */
  const tick = ref(0)
  const notices = useNotices()
  const highlights = computed(() => kept.value.highlights)
  const path = () => `/gates/${gateId()}/highlights`

  /** What cannot be had is left out: a gate can be worked on without. */
  async function load(): Promise<void> {
    if (gateId() === null) return
    await take(await ask(highlightListSchema, path()).catch(() => kept.value))
  }

  async function take(list: HighlightList): Promise<void> {
    kept.value = list
    await session.highlight(list.highlights).catch(leaveAsIs)
    tick.value++
    await count()
  }

  async function count(): Promise<void> {
    if (decided.value === 0) return
    const found = await session.toldHighlights().catch(() => told.value)
    told.value = found
    if (found?.isMore) tick.value++
  }

  /** Puts others in their place. @param undone whether the step before is to be offered @returns whether it is kept; what is refused is told, and what there is is shown */
  async function change(next: Highlight[], words: string | null = null): Promise<boolean> {
    const before = kept.value.highlights
    try {
      await take(await askWith(highlightListSchema, 'PUT', path(), { seen: kept.value.version, highlights: next }))
      if (words !== null) notices.say(words, { label: 'Take it back', run: () => void change(before) })
      return true
    } catch (error) {
      notices.warn(messageOf(error))
      await load()
      return false
    }
  }

  watch(decided, useLater(count, PAUSE))
  watch(table, async (now) => {
    if (!now) return
    await session.beside(now).catch(leaveAsIs)
    await count()
  }, { immediate: true })
  return { highlights, told, tick, load, change }
}
