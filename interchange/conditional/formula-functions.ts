/** OpenFormula's functions as terms (ISO/IEC 26300-4 clause 6). */
import type { Node, Span } from '@dime-gate/core/expression/tree'
import { parseDate } from '@dime-gate/core/value/temporal'
import { comparisonTerm } from './formula-comparison'
import { withFallback } from './formula-errors'
import { formulaLookup } from './formula-lookups'
import { booleanValue, callValue, dateValue, nullValue, numberValue, value } from './nodes'
import { notUnderstood, type Term } from './term'
import type { ToFeel } from './to-feel'

/** Functions by FEEL's names, and how many arguments they take (clause 6). */
const SAME: Record<string, [name: string, least: number, most: number]> = {
  ABS: ['abs', 1, 1], MOD: ['modulo', 2, 2], UPPER: ['upper case', 1, 1], LOWER: ['lower case', 1, 1], LEN: ['string length', 1, 1], SQRT: ['sqrt', 1, 1], LN: ['log', 1, 1], EXP: ['exp', 1, 1],
  ROUND: ['round half up', 1, 2], ROUNDUP: ['round up', 1, 2], ROUNDDOWN: ['round down', 1, 2], TRUNC: ['round down', 1, 2], INT: ['floor', 1, 1],
  SUM: ['sum', 1, 200], AVERAGE: ['mean', 1, 200], MIN: ['min', 1, 200], MAX: ['max', 1, 200], MEDIAN: ['median', 1, 200],
  TODAY: ['today', 0, 0], ISODD: ['odd', 1, 1], ISEVEN: ['even', 1, 1],
}
const DATE_PARTS: Record<string, string> = { YEAR: 'year', MONTH: 'month', DAY: 'day' }

/** @param name in capitals. @throws ConditionalError where the function is not known, or called with another number of values */
export function formulaFunction(name: string, given: readonly Term[], span: Span, feel: ToFeel): Term {
  if (name === 'INDEX') return indexed(given, span, feel)
  const lookup = formulaLookup(name, given, span)
  if (lookup) return lookup
  // What stands in a range is given to a function like values of their own.
  const args = given.flatMap((arg) => (arg.kind === 'array' ? arg.rows.flat() : [arg]))
  const [first, second, third] = args
  const takes = (least: number, most = least) => {
    if (args.length < least || args.length > most) throw notUnderstood(`${name} takes ${least === most ? least : `${least} to ${most}`} ${most === 1 ? 'value' : 'values'}, not ${args.length}.`, span)
  }
  const isNull = (of: Term): Term => ({ kind: 'is null', of, span })
  const not = (of: Term): Term => ({ kind: 'not', of, span })
  const feelOf = (term: Term | undefined) => feel.value(term!)
  const choice = (whens: { when: Term; then: Term }[], otherwise: Term | null): Term => ({ kind: 'choice', whens, otherwise, span })
  const same = SAME[name]
  if (same) {
    takes(same[1], same[2])
    const values = args.map((arg) => feel.value(arg))
    const places: Node[] = /^(ROUND|TRUNC)/.test(name) && values.length === 1 ? [{ kind: 'number', number: '0', span }] : []
    return callValue(same[0], [...values, ...places], span)
  }
  switch (name) {
    case 'COUNT': {
      takes(1, 200)
      const values = args.map((arg) => feel.value(arg))
      if (values.length === 1) return callValue('count', values, span)
      // A formula counts what there is; FEEL counts nulls too.
      const item: Node = { kind: 'name', name: 'item', span }
      const isThere: Node = { kind: 'comparison', operator: '!=', left: item, right: { kind: 'null', span }, span }
      return callValue('count', [{ kind: 'filter', of: { kind: 'list', items: values, span }, by: isThere, span }], span)
    }
    case 'IF':
      takes(1, 3)
      if (args.length === 3) return choice([{ when: first!, then: second! }], third!)
      return choice([{ when: first!, then: second ?? booleanValue(true, span) }], withoutElse(second, span, feel))
    case 'IFS':
      if (args.length === 0 || args.length % 2 === 1) throw notUnderstood('IFS takes conditions and values in pairs.', span)
      return choice(pairs(args).map(([when, then]) => ({ when, then })), null)
    case 'SWITCH':
      takes(3, 255)
      return choice(pairs(args.slice(1)).map(([right, then]) => ({ when: comparisonTerm('=', first!, right, span), then })), args.length % 2 === 0 ? args.at(-1)! : null)
    case 'CHOOSE':
      takes(2, 255)
      return choice(args.slice(1).map((then, at) => ({ when: { kind: 'comparison', operator: '=', left: shifted(first!), right: numberValue(String(at + 1 - shiftOf(first!)), span), span }, then })), null)
    case 'AND': case 'OR':
      takes(1, 255)
      return args.length === 1 ? first! : { kind: name === 'AND' ? 'and' : 'or', of: [...args], span }
    case 'NOT':
      takes(1)
      return not(first!)
    case 'TRUE': case 'FALSE':
      takes(0)
      return booleanValue(name === 'TRUE', span)
    case 'EXACT':
      takes(2)
      return comparisonTerm('=', first!, second!, span)
    case 'ISBLANK': case 'ISERROR': case 'ISNA': case 'ISERR':
      takes(1)
      return isNull(first!)
    case 'ISNUMBER': case 'ISTEXT': case 'ISLOGICAL': {
      takes(1)
      const found = first!.kind === 'value' && first!.node.kind === 'call' && first!.node.name === FOUND ? first!.node.args : null
      return found ? callValue('contains', found, span) : not(isNull(first!))
    }
    case 'XOR':
      takes(1, 255)
      return args.reduce((odd, arg) => ({ kind: 'or', of: [{ kind: 'and', of: [odd, not(arg)], span }, { kind: 'and', of: [not(odd), arg], span }], span }))
    case 'FIND':
      takes(2)
      return callValue(FOUND, [feelOf(second), feelOf(first)], span)
    case 'SEARCH': {
      takes(2)
      const part = feelOf(first)
      if (part.kind !== 'text' || /[?*~]/.test(part.text)) throw notUnderstood('SEARCH is only understood with a plain text, without “?”, “*” and “~”.', span)
      const lower = (of: Node): Node => ({ kind: 'call', name: 'lower case', args: [of], names: null, span })
      return callValue(FOUND, [lower(feelOf(second)), { ...part, text: part.text.toLowerCase() }], span)
    }
    case 'MID': {
      takes(3)
      const [text, from, length] = args.map(feelOf)
      if (from!.kind !== 'number' || Number(from!.number) < 1) throw notUnderstood('MID is only understood with a plain number from 1 on as its second value.', span)
      return callValue('substring', [text!, from!, length!], span)
    }
    case 'IFERROR': case 'IFNA':
      takes(2)
      return withFallback(first!, second!, span)
    case 'LEFT': case 'RIGHT': {
      takes(2)
      const from: Node[] = name === 'LEFT' ? [{ kind: 'number', number: '1', span }, feelOf(second)] : [{ kind: 'negate', of: feelOf(second), span }]
      return callValue('substring', [feelOf(first), ...from], span)
    }
    case 'TRIM': {
      takes(1)
      const text = (held: string): Node => ({ kind: 'text', text: held, span })
      const replaced = (of: Node, pattern: string, by: string): Node => ({ kind: 'call', name: 'replace', args: [of, text(pattern), text(by)], names: null, span })
      return value(replaced(replaced(feelOf(first), '^\\s+|\\s+$', ''), '\\s+', ' '))
    }
    case 'DATE': {
      takes(3)
      const parts = args.map((arg) => (arg.kind === 'value' && arg.node.kind === 'number' ? arg.node.number : null))
      const text = `${(parts[0] ?? '').padStart(4, '0')}-${(parts[1] ?? '').padStart(2, '0')}-${(parts[2] ?? '').padStart(2, '0')}`
      return parts.every((part) => part !== null) && parseDate(text) ? dateValue(text, span) : callValue('date', args.map(feelOf), span)
    }
    case 'YEAR': case 'MONTH': case 'DAY':
      takes(1)
      return value({ kind: 'path', of: feelOf(first), name: DATE_PARTS[name]!, span })
    case 'DATEDIF': {
      takes(3)
      const part = third!.kind === 'value' && third!.node.kind === 'text' ? third!.node.text.toLowerCase() : ''
      if (part !== 'y') throw notUnderstood('DATEDIF is only understood with "y".', span)
      return value({ kind: 'path', of: { kind: 'call', name: 'years and months duration', args: [feelOf(first), feelOf(second)], names: null, span }, name: 'years', span })
    }
    default:
      throw notUnderstood(`The function ${name} is not understood.`, span)
  }
}

/** Stands for a search until it is known what is asked of it; no FEEL function has this name. */
const FOUND = 'find'

function pairs(args: readonly Term[]): [Term, Term][] {
  return Array.from({ length: Math.floor(args.length / 2) }, (_, at) => [args[2 * at]!, args[2 * at + 1]!])
}

/** What an IF without a third value gives: FALSE, which is only meant where truths are given. */
function withoutElse(then: Term | undefined, span: Span, feel: ToFeel): Term {
  const isTruth = !then || (then.kind === 'value' ? then.node.kind === 'boolean' : then.kind !== 'choice' && then.kind !== 'array')
  if (isTruth) return booleanValue(false, span)
  feel.doubts.add('An IF without a third value gives FALSE where its condition is not true; here such records get no label from it.')
  return nullValue(span)
}

/** The value at a place in a list, which may be looked up. */
function indexed(args: readonly Term[], span: Span, feel: ToFeel): Term {
  const [list, place, ...more] = args
  if (list?.kind !== 'array' || !place || more.length > 0) throw notUnderstood('INDEX is only understood with a list in braces and a place in it.', span)
  const items = list.rows.flat()
  // A place that is looked up is known in each case.
  const itemAt = (at: Term) => (at.kind === 'value' && at.node.kind === 'number' ? items[Number(at.node.number) - 1] : undefined)
  if (place.kind === 'choice' && !place.otherwise && place.whens.every(({ then }) => itemAt(then))) {
    return { ...place, whens: place.whens.map(({ when, then }) => ({ when, then: itemAt(then)! })) }
  }
  return formulaFunction('CHOOSE', [place, ...items], span, feel)
}

function shiftOf(term: Term): number {
  return term.kind === 'value' && term.node.kind === 'arithmetic' && term.node.operator === '+' && term.node.right.kind === 'number' ? Number(term.node.right.number) : 0
}

/** What is counted from another number than 1, without the shift: a choice of numbers can then be taken apart. */
function shifted(term: Term): Term {
  if (shiftOf(term) === 0 || term.kind !== 'value' || term.node.kind !== 'arithmetic') return term
  return conditionalValue(term.node.left)
}

/** A nested `if` as the choice that it is. */
function conditionalValue(node: Node): Term {
  if (node.kind !== 'if') return value(node)
  return { kind: 'choice', whens: [{ when: value(node.condition), then: conditionalValue(node.then) }], otherwise: conditionalValue(node.otherwise), span: node.span }
}
