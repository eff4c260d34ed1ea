/** What a named condition that says something else moves in the other gates that carry it. */
import { type Binding, bindingSchema, standingInputs } from '@dime-gate/contract/binding'
import { boundByNames } from '@dime-gate/contract/bound-by-names'
import type { KnownCondition } from '@dime-gate/contract/condition'
import { type FeedingGate, feedingGateSchema, gateSchema } from '@dime-gate/contract/gate'
import { columnsAsked } from '@dime-gate/contract/question'
import { isComputed, type Table, tableSchema } from '@dime-gate/contract/table'
import type { Gate } from '@dime-gate/core/gate/document'
import { parcelOf, withParcel } from '@dime-gate/core/gate/named-conditions'
import type { Remote } from 'comlink'
import { z } from 'zod'
import { columnAddress } from '../records/column-address'
import type { RecordsWorker } from '../records/records-worker'
import type { Asked, ToldMoves } from '../records/session'
import { ask } from '../shared/api'

export type OtherGate = KnownCondition['gates'][number]

/** A gate with a table that it is bound to, as both are stored. */
export interface Elsewhere {
  gate: Gate
  table: Table
  binding: Pick<Binding, 'inputs'>
  feeding: FeedingGate[]
}

export interface MovesElsewhere {
  gate: OtherGate
  /** Where they were looked at. */
  table: string
  /** Null where one of the two states cannot decide. */
  moves: ToldMoves | null
}

/** @param was and `is` states of the gate in which the condition is changed. @returns null where the condition does not go with the other gate */
export function askedElsewhere({ gate, table, binding, feeding }: Elsewhere, id: string, was: Gate, is: Gate, asOf: string): [before: Asked, after: Asked] | null {
  const states = [was, is].map((state): Asked | null => {
    const taken = withParcel(gate, parcelOf(state, id))
    if ('quarrel' in taken) return null
    const inputs = { ...boundByNames(taken.added, table.columns, table.sets), ...binding.inputs }
    return { gate: taken.gate, inputs: standingInputs(inputs, table), feeding, asOf }
  })
  const [before, after] = states
  return before && after ? [before, after] : null
}

/** @throws RequestProblem */
export async function movesElsewhere(session: Pick<Remote<RecordsWorker>, 'movesApart'>, other: OtherGate, id: string, was: Gate, is: Gate, asOf: string): Promise<MovesElsewhere> {
  const elsewhere = await look(other)
  const { table } = elsewhere
  const asked = askedElsewhere(elsewhere, id, was, is, asOf)
  if (!asked) return { gate: other, table: table.name, moves: null }
  const columns = [...new Set(asked.flatMap(columnsAsked))]
  // Without any column there would be no record to decide.
  const needed = columns.length > 0 ? columns : table.columns.filter((column) => !isComputed(column)).slice(0, 1).map((column) => column.id)
  return { gate: other, table: table.name, moves: await session.movesApart(...asked, needed.map((column) => columnAddress(table, column, asOf))) }
}

async function look({ id, table: tableId }: OtherGate): Promise<Elsewhere> {
  const [{ draft }, table, binding] = await Promise.all([
    ask(gateSchema, `/gates/${id}`),
    ask(tableSchema, `/tables/${tableId}`),
    ask(bindingSchema, `/gates/${id}/bindings/${tableId}`),
  ])
  const isFed = draft.inputs.some(({ source }) => source.kind === 'gate')
  return { gate: draft, table, binding, feeding: isFed ? await ask(z.array(feedingGateSchema), `/gates/${id}/feeding/${tableId}`) : [] }
}
