/** Records that somebody gives by their values, as a table that can be decided like any other. */
import type { Input } from '../gate/document'
import type { Cell } from '../table/cells'
import type { NumberColumn } from '../table/number-column'
import { type Column, columnOf, type Table } from '../table/table'

/**
 * @param inputs that values are given for
 * @param cells what a record has for an input: one cell, and for a column set as many as there are
 */
export function givenTable(inputs: readonly Input[], length: number, cells: (input: Input, at: number) => readonly Cell[]): Table {
  const columns = new Map(inputs.map((input): [string, Column | NumberColumn[]] => {
    const given = Array.from({ length }, (_, at) => cells(input, at))
    const column = (member: number) => columnOf(input.type, given.map((one) => one[member] ?? null))
    if (!input.isSet) return [input.name, column(0)]
    const members = Math.max(1, ...given.map((one) => one.length))
    return [input.name, Array.from({ length: members }, (_, member) => column(member) as NumberColumn)]
  }))
  return { length, columns }
}
