/** Which columns of a table stand for a gate's inputs, as far as their names say it. */
import type { BoundInputs } from '@dime-gate/contract/binding'
import type { Column } from '@dime-gate/contract/table'
import type { Input } from '@dime-gate/core/gate/document'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'

const folded = (name: string) => name.trim().toLowerCase()

/** Inputs that no column is named after are left out, and so are column sets: which columns belong to one only people know. */
export function boundByNames(inputs: readonly Input[], columns: readonly Pick<Column, 'id' | 'name' | 'type'>[]): BoundInputs {
  return Object.fromEntries(inputs.flatMap(({ name, type, isSet, source }) => {
    const column = isSet || source.kind !== 'given' ? undefined : columns.find((one) => folded(one.name) === folded(name) && kindOfColumn(one.type) === type)
    return column ? [[name, { column: column.id }]] : []
  }))
}
