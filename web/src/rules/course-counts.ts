/** What the rules of a course take, told to each row by itself: where one count moves, no other row is drawn anew. */
import type { Counts, FurtherCounts } from '@dime-gate/core/result/counts'
import { computed, type ComputedRef, inject, type InjectionKey, provide } from 'vue'

export interface CourseCounts {
  counts: () => Counts | null
  further: () => FurtherCounts | null
}

const KEY: InjectionKey<CourseCounts> = Symbol('course counts')

export function provideCourseCounts(counts: CourseCounts): void {
  provide(KEY, counts)
}

/** Of one rule, in records; null before they are counted. */
export function useRuleCounts(at: () => number): { caught: ComputedRef<number | null>; alone: ComputedRef<number | null>; records: ComputedRef<number> } {
  const { counts, further } = inject(KEY)!
  return {
    caught: computed(() => counts()?.caught[at()] ?? null),
    alone: computed(() => further()?.alone[at()] ?? null),
    records: computed(() => counts()?.records ?? 0),
  }
}
