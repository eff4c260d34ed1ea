/** Who a record is: the values of its table's identity columns, by which it is found again in later runs. */
import type { Column } from '@dime-gate/contract/table'
import { isNumeric } from '@dime-gate/core/value/read-cell'
import { valueOf, writtenOf } from '../table/relation'

/** As SQL over `records`: a JSON array of the texts; where the table has no identity columns, or the record no value in them, its number. */
export function whoIs(columns: readonly Column[]): string {
  const texts = columns.filter(({ isIdentity }) => isIdentity).map(({ id, type }) => {
    const value = `records.${valueOf(id)}`
    return `coalesce(${isNumeric(type) ? `trim_scale(${value})` : value}::text, ${writtenOf(id)})`
  })
  if (texts.length === 0) return "'#' || records.record"
  return `case when coalesce(${texts.join(', ')}) is null then '#' || records.record else jsonb_build_array(${texts.join(', ')})::text end`
}

/** Records that cannot be told apart by that are told apart by their numbers. @param who as SQL */
export function whoApart(who: string): string {
  return `${who} || case when count(*) over (partition by ${who}) > 1 then ' #' || records.record else '' end`
}

/** The texts of the identity columns; none where there are none. */
export function whoTexts(who: string): (string | null)[] {
  return who.startsWith('[') ? (JSON.parse(who.replace(/ #\d+$/, '')) as (string | null)[]) : []
}
