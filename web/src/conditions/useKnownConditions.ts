/** Named conditions as all gates know them. */
import { type KnownCondition, knownConditionSchema } from '@dime-gate/contract/condition'
import { shallowRef } from 'vue'
import { z } from 'zod'
import { ask } from '../shared/api'

export function useKnownConditions() {
  const known = shallowRef<KnownCondition[]>([])
  /** @throws RequestProblem */
  async function look(): Promise<void> {
    known.value = await ask(z.array(knownConditionSchema), '/conditions')
  }
  return { known, look }
}
