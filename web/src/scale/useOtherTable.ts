/** How the same input is spread in another table, to be laid over the values of the one on the bench. */
import { bindingSchema } from '@dime-gate/contract/binding'
import { columnsAsked } from '@dime-gate/contract/question'
import { tableSchema } from '@dime-gate/contract/table'
import type { ScaleGate } from '@dime-gate/core/gate/document'
import type { Histogram } from '@dime-gate/core/table/histogram'
import { shallowRef } from 'vue'
import { z } from 'zod'
import { columnAddress } from '../records/column-address'
import { useSessionsByKey } from '../records/useSession'
import { ask, messageOf } from '../shared/api'
import { useNotices } from '../shared/notices'
import { listed } from '../shared/words'
import { askedOf } from './asked-of'

export interface OtherTable {
  name: string
  /** Null where it has no values in the stretch that is looked at. */
  histogram: Histogram | null
}

export function useOtherTable(gateId: number) {
  const records = useSessionsByKey()
  const notices = useNotices()
  const other = shallowRef<OtherTable | null>(null)
  let latest = 0

  /** @param within the stretch that is looked at; null for all of it. @returns false where it cannot be laid */
  async function lay(gate: ScaleGate, tableId: number, asOf: string, within: readonly [number, number] | null): Promise<boolean> {
    const turn = ++latest
    try {
      const table = await ask(tableSchema, `/tables/${tableId}`)
      const bindings = await ask(z.array(bindingSchema), `/gates/${gateId}/bindings`)
      const question = askedOf(gate, table, bindings.find((one) => one.tableId === tableId)?.inputs, asOf)
      if ('missing' in question) throw new Error(`${table.name} has no column named ${listed(question.missing)}. Once the gate is bound there, its values can be laid over these.`)
      const session = records(`${tableId} ${table.version} ${asOf}`)
      await session.open(columnsAsked(question.asked).map((id) => columnAddress(table, id, asOf)))
      await session.decide(question.asked)
      const spread = await session.spread(gate.on, within)
      if (turn !== latest) return true
      if (!spread?.histogram && !within) throw new Error(`${table.name} has no values there.`)
      other.value = { name: table.name, histogram: spread?.histogram ?? null }
      return true
    } catch (error) {
      if (turn !== latest) return true
      other.value = null
      notices.warn(messageOf(error))
      return false
    }
  }

  function clear(): void {
    latest++
    other.value = null
  }

  return { other, lay, clear }
}
