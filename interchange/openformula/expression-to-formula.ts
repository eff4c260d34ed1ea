/** FEEL expressions as OpenFormula, over values that are all there. */
import { childrenOf, freeNames, type Node, type NodeOf } from '@dime-gate/core/expression/tree'
import { Decimal } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { ExpressionWriter, type WriterScope } from '../ladder/expression-writer'
import { call, CLOSENESS, type Formula, formula, literal, not, OPEN_FORMULA, within } from './formula-text'

export interface Names extends WriterScope {
  value(name: string): Formula
  /** Whether the name has a value in the record. */
  isKnown(name: string): Formula
}

/** @throws GateError naming what a formula cannot say */
export function expressionToFormula(tree: Node, names: Names): Formula {
  return new Writer(names).write(tree)
}

/** Functions that mean the same, by ours (ISO/IEC 26300-4 clause 6). */
const SAME: Record<string, string> = {
  abs: 'ABS', 'string length': 'LEN', 'upper case': 'UPPER', 'lower case': 'LOWER', modulo: 'MOD', sqrt: 'SQRT', exp: 'EXP', log: 'LN',
  sum: 'SUM', mean: 'AVERAGE', min: 'MIN', max: 'MAX', count: 'COUNT', median: 'MEDIAN', odd: 'ISODD', even: 'ISEVEN',
}
const ROUNDINGS: Record<string, string> = { 'round half up': 'ROUND', 'round up': 'ROUNDUP', 'round down': 'ROUNDDOWN' }
const SYMBOLS: Record<string, string> = { '!=': '<>', '**': '^' }
const OPERATOR_CLOSENESS = { '+': CLOSENESS.sum, '-': CLOSENESS.sum, '*': CLOSENESS.product, '/': CLOSENESS.product, '**': CLOSENESS.power } as const

/** Whether something in it can come to nothing although all values are there. */
export function canFallShort(tree: Node): boolean {
  const isRisky = (tree.kind === 'arithmetic' && (tree.operator === '/' || tree.operator === '**'))
    || (tree.kind === 'call' && ['modulo', 'mean', 'min', 'max', 'sum', 'median', 'sqrt', 'log', 'exp'].includes(tree.name))
  return isRisky || childrenOf(tree).some(canFallShort)
}

class Writer extends ExpressionWriter<Formula> {
  constructor(private readonly names: Names) {
    super(OPEN_FORMULA, names, 'as a formula')
  }

  /** A formula's nothing is the empty text, which functions and comparisons take for one. */
  override write(node: Node): Formula {
    return node.kind === 'null' ? this.refuse(node, '“null”') : super.write(node)
  }

  protected literal(value: Value): Formula {
    return literal(value)
  }

  protected name({ name }: NodeOf<'name'>): Formula {
    return this.names.value(name)
  }

  protected negate(of: Node): Formula {
    return formula(`-${within(this.write(of), CLOSENESS.sign)}`, CLOSENESS.sign)
  }

  protected inRange(_of: Node, _range: NodeOf<'range'>, inside: Formula): Formula {
    return inside
  }

  protected arithmetic(node: NodeOf<'arithmetic'>): Formula {
    const { operator, left, right } = node
    const types = [this.typeOf(left), this.typeOf(right)]
    const closeness = OPERATOR_CLOSENESS[operator]
    const after = Math.min(closeness + 1, CLOSENESS.whole) as typeof CLOSENESS.whole
    const joined = () => formula(`${within(this.write(left), closeness)} ${SYMBOLS[operator] ?? operator} ${within(this.write(right), after)}`, closeness)
    if (types.every((type) => type === 'number' || type === 'days and time duration')) return joined()
    if (operator === '+' && types.every((type) => type === 'text')) return formula(`${within(this.write(left), CLOSENESS.join)} & ${within(this.write(right), CLOSENESS.sum)}`, CLOSENESS.join)
    if (operator === '-' && types.every((type) => type === 'date')) return formula(`(${joined().text}) * 86400`, CLOSENESS.product)
    return this.refuse(node, `“${operator}” of a ${String(types[0])} and a ${String(types[1])}`)
  }

  protected comparison(operator: NodeOf<'comparison'>['operator'], left: Node, right: Node): Formula {
    if (left.kind === 'null' || right.kind === 'null') {
      const subject = left.kind === 'null' ? right : left
      const known = OPEN_FORMULA.all(freeNames(subject).map((name) => this.names.isKnown(name)))
      const isThere = canFallShort(subject) ? call('IF', known, not(call('ISERROR', this.write(subject))), formula('FALSE()')) : known
      return operator === '=' ? not(isThere) : operator === '!=' ? isThere : formula('FALSE()')
    }
    const type = this.typeOf(left)
    const [a, b] = [this.write(left), this.write(right)]
    if (type === 'text') {
      // `=` may or may not tell capitals from small letters; EXACT always does.
      if (operator === '=') return call('EXACT', a, b)
      return operator === '!=' ? not(call('EXACT', a, b)) : this.refuse(left, 'The order of texts')
    }
    return formula(`${within(a, CLOSENESS.join)} ${SYMBOLS[operator] ?? operator} ${within(b, CLOSENESS.join)}`, CLOSENESS.comparison)
  }

  protected property(node: NodeOf<'path'>): Formula {
    const type = this.typeOf(node.of)
    const { of } = node
    if (type === 'date' && ['year', 'month', 'day'].includes(node.name)) return call(node.name.toUpperCase(), this.write(of))
    if (type === 'date' && node.name === 'weekday') return call('WEEKDAY', this.write(of), formula('2'))
    if (type === 'days and time duration' && node.name === 'days') {
      const isDates = of.kind === 'arithmetic' && of.operator === '-' && this.typeOf(of.left) === 'date'
      if (isDates) return formula(`${within(this.write(of.left), CLOSENESS.sum)} - ${within(this.write(of.right), CLOSENESS.product)}`, CLOSENESS.sum)
      return call('TRUNC', formula(`${within(this.write(of), CLOSENESS.product)} / 86400`, CLOSENESS.product))
    }
    if (of.kind === 'call' && of.name === 'years and months duration' && node.name === 'years' && !of.names) {
      return call('DATEDIF', this.write(of.args[0]!), this.write(of.args[1]!), formula('"y"'))
    }
    return this.refuse(node, `“${node.name}” of a ${String(type)}`)
  }

  protected call(node: NodeOf<'call'>): Formula {
    const { name, args } = node
    if (node.names) return this.refuse(node, 'A call with named arguments')
    const of = (at: number) => this.write(args[at]!)
    if (SAME[name]) {
      const items = args.length === 1 && args[0]!.kind === 'list' ? args[0]!.items : args
      if (name === 'count' && args[0]!.kind === 'list') return formula(String(items.length))
      return call(SAME[name], ...items.map((item) => this.write(item)))
    }
    if (ROUNDINGS[name] || name === 'decimal' || name === 'floor' || name === 'ceiling') {
      const scale = args[1] ? this.constant(args[1]) : new Decimal(0)
      if (scale === undefined || !isNumber(scale!) || !scale.isInteger()) return this.refuse(node, 'Rounding to a place that is not a constant')
      return roundingTo(name, of(0), scale.toNumber()) ?? this.refuse(node, 'Rounding down or up to other than whole numbers')
    }
    switch (name) {
      case 'not':
        return not(of(0))
      case 'contains':
        return call('ISNUMBER', call('FIND', of(1), of(0)))
      case 'starts with':
        return call('EXACT', call('LEFT', of(0), call('LEN', of(1))), of(1))
      case 'ends with':
        return call('EXACT', call('RIGHT', of(0), call('LEN', of(1))), of(1))
      case 'replace':
        // What a folding match list does: TRIM takes blanks off the ends, and leaves one of each run between words.
        if (args[1]?.kind === 'text' && args[1].text === '\\s+' && args[0]?.kind === 'call' && args[0].name === 'replace') return call('TRIM', this.write(args[0].args[0]!))
        return this.refuse(node, 'The function “replace”')
      default:
        return this.refuse(node, `The function “${name}”`)
    }
  }
}

/** @returns null where there is no function for it */
export function roundingTo(name: string, of: Formula, places: number): Formula | null {
  if (ROUNDINGS[name]) return call(ROUNDINGS[name], of, formula(String(places)))
  if (name === 'decimal') {
    const whole = places === 0 ? of : formula(`${within(of, CLOSENESS.product)} * ${new Decimal(10).pow(places).toFixed()}`, CLOSENESS.product)
    const isHalf = formula(`ABS(${whole.text}) - TRUNC(ABS(${whole.text})) = 0.5`, CLOSENESS.comparison)
    const even = formula(`ROUND(${within(whole, CLOSENESS.product)} / 2; 0) * 2 / ${new Decimal(10).pow(places).toFixed()}`, CLOSENESS.product)
    return call('IF', isHalf, even, call('ROUND', of, formula(String(places))))
  }
  if (places !== 0) return null
  return name === 'floor' ? call('INT', of) : formula(`-INT(-${within(of, CLOSENESS.sign)})`, CLOSENESS.sign)
}
