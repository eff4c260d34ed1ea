/** What records of a table were given by hand in place of what gates give them, wherever their labels are shown. */
import { type Override, overrideSchema } from '@dime-gate/contract/review'
import { shallowRef, type ShallowRef, watch } from 'vue'
import { z } from 'zod'
import { ask } from '../shared/api'
import { useReviewMoves } from '../shared/moves'

/** @property key by which the answer is told from others */
export interface ByHandAsked {
  key: number
  gateId: number
  tableId: number
}

/** @returns by key what stands; what is shown can be read without, so none where it cannot be asked for */
export function useByHand(asked: () => ByHandAsked[]): ShallowRef<ReadonlyMap<number, readonly Override[]>> {
  const found = shallowRef<ReadonlyMap<number, readonly Override[]>>(new Map())
  let round = 0
  async function look(): Promise<void> {
    const mine = ++round
    const all = await Promise.all(asked().map(async ({ key, gateId, tableId }): Promise<[number, Override[]]> => [key, await ask(z.array(overrideSchema), `/review/gates/${gateId}/tables/${tableId}/overrides`).catch(() => [])]))
    if (mine === round) found.value = new Map(all)
  }
  watch(() => JSON.stringify(asked()), look, { immediate: true })
  useReviewMoves(look)
  return found
}
