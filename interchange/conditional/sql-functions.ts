/** SQL's functions as terms. */
import type { Node, Span } from '@dime-gate/core/expression/tree'
import { FOLDING } from '../sql/folding'
import { callValue, nullValue } from './nodes'
import { notUnderstood, type Term } from './term'
import type { ToFeel } from './to-feel'

/** SQL's functions by FEEL's names, and how many arguments they take. */
const SAME: Record<string, [name: string, least: number, most: number]> = {
  ABS: ['abs', 1, 1], UPPER: ['upper case', 1, 1], LOWER: ['lower case', 1, 1], SQRT: ['sqrt', 1, 1], LN: ['log', 1, 1], EXP: ['exp', 1, 1],
  CHAR_LENGTH: ['string length', 1, 1], CHARACTER_LENGTH: ['string length', 1, 1], LENGTH: ['string length', 1, 1],
  ROUND: ['round half up', 1, 2], TRUNC: ['round down', 1, 2], TRUNCATE: ['round down', 1, 2], FLOOR: ['floor', 1, 1], CEIL: ['ceiling', 1, 1], CEILING: ['ceiling', 1, 1],
}

function isText(term: Term, text: string): boolean {
  return term.kind === 'value' && term.node.kind === 'text' && term.node.text === text
}

/** @param name in capitals. @throws ConditionalError where the function is not known, or called with another number of values */
export function sqlFunction(name: string, args: readonly Term[], span: Span, feel: ToFeel): Term {
  const values = () => args.map((arg) => feel.value(arg))
  const same = SAME[name]
  if (same) {
    const [to, least, most] = same
    if (args.length < least || args.length > most) throw notUnderstood(`${name} takes ${least === most ? least : `${least} to ${most}`} ${most === 1 ? 'value' : 'values'}, not ${args.length}.`, span)
    const given = values()
    const places: Node[] = (name === 'ROUND' || name.startsWith('TRUNC')) && given.length === 1 ? [{ kind: 'number', number: '0', span }] : []
    return callValue(to, [...given, ...places], span)
  }
  if (name === 'MOD' && args.length === 2) return remainder(args[0]!, args[1]!, span, feel)
  if ((name === 'GREATEST' || name === 'LEAST') && args.length > 0) return extreme(name === 'GREATEST' ? 'max' : 'min', values(), span)
  if ((name === 'NVL' || name === 'IFNULL' || name === 'ISNULL') && args.length === 2) return sqlFunction('COALESCE', args, span, feel)
  if ((name === 'IIF' || name === 'IF') && args.length === 3) return { kind: 'choice', whens: [{ when: args[0]!, then: args[1]! }], otherwise: args[2]!, span }
  if ((name === 'TRIM' || name === 'BTRIM') && args.length === 1) {
    return callValue('replace', [feel.value(args[0]!), { kind: 'text', text: '^ +| +$', span }, { kind: 'text', text: '', span }], span)
  }
  if (name === 'COALESCE' && args.length > 0) {
    const last = args.at(-1)!
    return { kind: 'choice', whens: args.slice(0, -1).map((arg) => ({ when: { kind: 'not', of: { kind: 'is null', of: arg, span }, span }, then: arg })), otherwise: last, span }
  }
  if (name === 'NULLIF' && args.length === 2) {
    return { kind: 'choice', whens: [{ when: { kind: 'comparison', operator: '=', left: args[0]!, right: args[1]!, span }, then: nullValue(span) }], otherwise: args[0]!, span }
  }
  // Rounding to the digits of decimal128, which is what all numbers here have.
  if (name === 'TO_CHAR' && args.length === 2 && args[1]!.kind === 'value' && args[1]!.node.kind === 'text' && /^9\.9{33}EEEE$/.test(args[1]!.node.text)) return args[0]!
  const folding = name === 'REGEXP_REPLACE' && args.length === 4 ? FOLDING.find(({ sql }) => [sql.pattern, sql.by, 'g'].every((text, at) => isText(args[at + 1]!, text))) : undefined
  if (folding) return callValue('replace', [feel.value(args[0]!), { kind: 'text', text: folding.feel, span }, { kind: 'text', text: folding.sql.by, span }], span)
  if ((name === 'LEFT' || name === 'RIGHT') && args.length === 2) {
    const [text, length] = values()
    const from: Node[] = name === 'LEFT' ? [{ kind: 'number', number: '1', span }, length!] : [{ kind: 'negate', of: length!, span }]
    return callValue('substring', [text!, ...from], span)
  }
  throw notUnderstood(`The function ${name} is not understood.`, span)
}

/** SQL's remainder has the sign of what is divided, FEEL's that of what it is divided by. */
export function remainder(of: Term, by: Term, span: Span, feel: ToFeel): Term {
  const [dividend, divisor] = [feel.value(of), feel.value(by)]
  const call = (name: string, ...args: Node[]): Node => ({ kind: 'call', name, args, names: null, span })
  const size = divisor.kind === 'number' ? { ...divisor, number: divisor.number.replace(/^-/, '') } : call('abs', divisor)
  if (dividend.kind === 'number' && !dividend.number.startsWith('-')) return callValue('modulo', [dividend, size], span)
  const rest: Node = { kind: 'negate', of: call('modulo', { kind: 'negate', of: dividend, span }, size), span }
  const isBelow: Node = { kind: 'comparison', operator: '<', left: dividend, right: { kind: 'number', number: '0', span }, span }
  return { kind: 'value', node: { kind: 'if', condition: isBelow, then: rest, otherwise: call('modulo', dividend, size), span }, span }
}

/** SQL's greatest and least leave nulls out, FEEL's are null where one is. */
function extreme(name: 'max' | 'min', items: Node[], span: Span): Term {
  const item: Node = { kind: 'name', name: 'item', span }
  const isThere: Node = { kind: 'comparison', operator: '!=', left: item, right: { kind: 'null', span }, span }
  return callValue(name, [{ kind: 'filter', of: { kind: 'list', items, span }, by: isThere, span }], span)
}
