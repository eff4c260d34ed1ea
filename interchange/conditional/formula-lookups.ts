/** Lookups in lists that stand in the formula itself (ISO/IEC 26300-4 clause 6.14), as choices. */
import type { Span } from '@dime-gate/core/expression/tree'
import { Decimal } from '@dime-gate/core/value/number'
import { comparisonTerm } from './formula-comparison'
import { numberValue } from './nodes'
import { notUnderstood, type Term } from './term'

/** How a value is found among keys: the same; the greatest that is not above it, in a rising list; the least that is not below it, in a falling one. */
type Match = 'same' | 'not above' | 'not below'

const LOOKUPS: ReadonlySet<string> = new Set(['LOOKUP', 'VLOOKUP', 'HLOOKUP', 'MATCH'])

/** @returns null where the function is no lookup. @throws ConditionalError where it looks elsewhere than in a list of the formula */
export function formulaLookup(name: string, args: readonly Term[], span: Span): Term | null {
  if (!LOOKUPS.has(name)) return null
  const [wanted, list, third, fourth] = args
  if (!wanted || list?.kind !== 'array') throw notUnderstood(`${name} is only understood with a list in braces, as in LOOKUP(Score; {0; 50; 65}; {"Fail"; "Pass"; "Good"}).`, span)
  switch (name) {
    case 'LOOKUP': {
      if (!third) return found(wanted, lineOf(list, 'first'), lineOf(list, 'last'), 'not above', span)
      if (third.kind !== 'array') throw notUnderstood('The third value of LOOKUP is a list in braces as well.', third.span)
      return found(wanted, list.rows.flat(), third.rows.flat(), 'not above', span)
    }
    case 'MATCH':
      return found(wanted, list.rows.flat(), list.rows.flat().map((_, at) => numberValue(String(at + 1), span)), matchOf(numberIn(third, 1)), span)
    default: {
      const lines = name === 'VLOOKUP' ? transposed(list.rows) : list.rows
      const line = numberIn(third, Number.NaN)
      const results = lines[line - 1]
      if (!results) throw notUnderstood(`${name} says with a number in which of ${lines.length} ${name === 'VLOOKUP' ? 'columns' : 'rows'} the result stands.`, (third ?? list).span)
      return found(wanted, lines[0]!, results, numberIn(fourth, 1) === 0 ? 'same' : 'not above', span)
    }
  }
}

/** The keys or the results: of a list that is wider than high in rows, of another in columns. */
function lineOf({ rows }: Extract<Term, { kind: 'array' }>, which: 'first' | 'last'): Term[] {
  const lines = rows.length < rows[0]!.length ? rows : transposed(rows)
  return which === 'first' ? lines[0]! : lines.at(-1)!
}

function transposed(rows: readonly Term[][]): Term[][] {
  return rows[0]!.map((_, column) => rows.map((row) => row[column]!)).map((line) => line.filter(Boolean))
}

function matchOf(type: number): Match {
  return type === 0 ? 'same' : type < 0 ? 'not below' : 'not above'
}

function found(wanted: Term, keys: readonly Term[], results: readonly Term[], match: Match, span: Span): Term {
  if (keys.length !== results.length) throw notUnderstood(`The lists have ${keys.length} and ${results.length} values; each needs its result.`, span)
  if (match === 'same') return { kind: 'choice', whens: keys.map((key, at) => ({ when: comparisonTerm('=', wanted, key, span), then: results[at]! })), otherwise: null, span }
  const numbers = keys.map((key) => {
    if (key.kind !== 'value' || key.node.kind !== 'number') throw notUnderstood('Only numbers are understood in a list that is looked through in order; for others, ask for the same.', key.span)
    return new Decimal(key.node.number)
  })
  const isOrdered = numbers.every((number, at) => at === 0 || (match === 'not above' ? number.gte(numbers[at - 1]!) : number.lte(numbers[at - 1]!)))
  if (!isOrdered) throw notUnderstood(`The list has to ${match === 'not above' ? 'rise' : 'fall'} from value to value for this lookup.`, span)
  // The last that fits is the one: of keys that are the same as well.
  const whens = keys.map((key, at) => ({ when: comparisonTerm(match === 'not above' ? '>=' : '<=', wanted, key, span), then: results[at]! }))
  return { kind: 'choice', whens: whens.toReversed(), otherwise: null, span }
}

/** A number or a truth as a number. */
function numberIn(term: Term | undefined, without: number): number {
  if (!term) return without
  const node = term.kind === 'value' ? term.node : null
  if (node?.kind === 'null') return 0
  if (node?.kind === 'boolean') return Number(node.value)
  if (node?.kind !== 'number') throw notUnderstood('A plain number has to stand here.', term.span)
  return Number(node.number)
}
