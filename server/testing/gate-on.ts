/** A scale on a column of a table, with its first version set; for tests. */
import type { Table } from '@dime-gate/contract/table'
import { givenNumber, plainScale } from '@dime-gate/core/gate/scale-gate'
import { band } from '@dime-gate/core/testing/a-gate'
import type { TemporaryServer } from './temporary-server'

/** @param cuts each owned by the band above it, which is one more */
export async function gateOn(
  server: TemporaryServer,
  table: Table,
  column: string,
  cuts: string[],
  labels: string[],
): Promise<{ id: number; name: string }> {
  const { id: columnId, unit } = table.columns.find(({ name }) => name === column)!
  const name = `${table.name}, ${column} band`
  const draft = plainScale(
    name,
    givenNumber(column, unit),
    cuts.map((at) => ({ at, owner: 'above' })),
    labels.map(band),
  )
  const { status, body } = await server.ask('POST', '/gates', {
    draft,
    binding: { tableId: table.id, inputs: { [column]: { column: columnId } } },
  })
  if (status !== 201) throw new Error(JSON.stringify(body))
  const { id } = body as { id: number }
  await server.ask('POST', `/gates/${id}/versions`, { seen: 1 })
  return { id, name }
}
