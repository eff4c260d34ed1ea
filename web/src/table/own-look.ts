/** Rows that have a calculation each are told in its unit and with its places: their value, and what figures make of it, as the distance from a target. */
import type { Cell, Column } from '@dime-gate/contract/table'
import { parseExpression } from '@dime-gate/core/expression/parse'
import { freeNames } from '@dime-gate/core/expression/tree'
import { unitOfFigure } from '@dime-gate/core/figure/units'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { FIGURE_PLACES, number, roundedText } from '../shared/format'

interface OwnLook {
  places: number | null
  unit: string
}

/** By column, then by record. */
export type OwnLooks = ReadonlyMap<number, ReadonlyMap<number, OwnLook>>

/** Stands for a unit that is another in each row. */
const OWN = '¤'

export function ownLooks(columns: readonly Pick<Column, 'id' | 'name' | 'type' | 'unit' | 'feel' | 'drawn'>[]): OwnLooks {
  const found = new Map<number, ReadonlyMap<number, OwnLook>>()
  for (const { id, name, drawn } of columns) {
    if (drawn?.kind !== 'own') continue
    const looks = new Map(drawn.calculations.map((one) => [one.record, one]))
    found.set(id, looks)
    const alike = new Set([name])
    // A number without a unit beside it, as a target, is measured as its row is.
    const unitOf = (of: string) => {
      const column = columns.find((one) => one.name === of)
      return column && isNumeric(column.type) ? column.unit || OWN : null
    }
    const isAlike = (feel: string) => {
      const parsed = parseExpression(feel, columns.map((one) => one.name))
      if ('problem' in parsed || !freeNames(parsed.tree).some((one) => alike.has(one))) return false
      const { unit, troubles } = unitOfFigure(parsed.tree, feel, unitOf)
      return unit === OWN && troubles.length === 0
    }
    // A figure can be made of figures.
    for (let more = true; more;) {
      const next = columns.find((one) => one.feel !== null && one.unit === '' && !alike.has(one.name) && isAlike(one.feel))
      more = next !== undefined
      if (!next) continue
      alike.add(next.name)
      found.set(next.id, looks)
    }
  }
  return found
}

/** @returns null for a value that has no look of its own */
export function ownWords(cell: Cell | undefined, look: OwnLook | undefined): string | null {
  const value = cell?.[0] ?? null
  return value === null || !look ? null : `${number(roundedText(value, look.places ?? FIGURE_PLACES))}${look.unit ? `\u00a0${look.unit}` : ''}`
}
