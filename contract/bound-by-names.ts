/** Which columns of a table stand for a gate's inputs, as far as their names say it. */
import type { Bound, BoundInputs } from './binding'
import type { Column, SetOfColumns } from './table'
import type { Input } from '@dime-gate/core/gate/document'
import { kindOfColumn } from '@dime-gate/core/value/read-cell'

const folded = (name: string) => name.trim().toLowerCase()

/** Inputs that no column, and no column set, is named after are left out. */
export function boundByNames(inputs: readonly Input[], columns: readonly Pick<Column, 'id' | 'name' | 'type'>[], sets: readonly Pick<SetOfColumns, 'name'>[]): BoundInputs {
  return Object.fromEntries(inputs.flatMap(({ name, type, isSet, source }): [string, Bound][] => {
    const set = isSet && source.kind === 'given' ? sets.find((one) => folded(one.name) === folded(name)) : undefined
    if (set) return [[name, { set: set.name }]]
    const column = isSet || source.kind !== 'given' ? undefined : columns.find((one) => folded(one.name) === folded(name) && kindOfColumn(one.type) === type)
    return column ? [[name, { column: column.id }]] : []
  }))
}
