/** Casts of SQL: what a value is brought to changes what is compared, or is known to change nothing. */
import type { Node, Span } from '@dime-gate/core/expression/tree'
import { parseDate } from '@dime-gate/core/value/temporal'
import { callValue, dateValue } from './nodes'
import { notUnderstood, type Term } from './term'
import type { ToFeel } from './to-feel'

export interface SqlType {
  /** In capitals. */
  name: string
  /** What stands in brackets behind it. */
  sizes: readonly string[]
  span: Span
}

const WHOLE: ReadonlySet<string> = new Set(['INT', 'INTEGER', 'SMALLINT', 'BIGINT', 'INT2', 'INT4', 'INT8'])
const DECIMAL: ReadonlySet<string> = new Set(['NUMERIC', 'DECIMAL', 'DEC', 'NUMBER'])
const TEXT: ReadonlySet<string> = new Set(['TEXT', 'VARCHAR', 'CHAR', 'CHARACTER', 'NVARCHAR', 'STRING'])
/** Doubles lose digits that no label should hang on; a boolean is what it is. */
const UNCHANGED: ReadonlySet<string> = new Set(['DOUBLE', 'FLOAT', 'REAL', 'FLOAT4', 'FLOAT8', 'BOOLEAN', 'BOOL'])

/**
 * To whole numbers and to places after the point is a rounding, halves away from zero (as PostgreSQL has it; ISO/IEC
 * 9075-2 clause 6.13 leaves it to the implementation).
 * @throws ConditionalError where a cast would change the value in a way that is not known
 */
export function cast(of: Term, { name, sizes, span }: SqlType, feel: ToFeel): Term {
  const node = of.kind === 'value' ? of.node : null
  const rounded = (places: string) => callValue('round half up', [feel.value(of), { kind: 'number', number: places, span } satisfies Node], span)
  if (WHOLE.has(name)) return node?.kind === 'number' && /^-?\d+$/.test(node.number) ? of : rounded('0')
  if (DECIMAL.has(name)) return sizes.length === 0 ? of : rounded(sizes[1] ?? '0')
  if (name === 'DATE') {
    if (node?.kind === 'text') {
      if (!parseDate(node.text)) throw notUnderstood(`“${node.text}” is no date; write it as 2026-03-02.`, span)
      return dateValue(node.text, span)
    }
    return of
  }
  if (TEXT.has(name)) {
    if (sizes.length > 0 || node?.kind === 'number') throw notUnderstood('A cast to text that cuts it off, or writes a number, is not understood. Compare the value itself.', span)
    return of
  }
  if (UNCHANGED.has(name)) return of
  throw notUnderstood(`A cast to ${name} is not understood; to INTEGER, NUMERIC, DATE and TEXT are.`, span)
}
