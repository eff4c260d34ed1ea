/** FEEL expressions as SQL, in PostgreSQL's dialect where types need it. */
import { freeNames, MIRRORED, type Node, type NodeOf } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import { Decimal } from '@dime-gate/core/value/number'
import { isNumber, type Value } from '@dime-gate/core/value/value'
import { ExpressionWriter, type WriterScope } from '../ladder/expression-writer'
import { FOLDING } from './folding'
import { caseOf, CLOSENESS, conjunction, disjunction, is, isDistinct, literal, negation, type Sql, SQL, sql, within } from './sql-text'

export interface Names extends WriterScope {
  /** What stands for a name; of a column set, its members. */
  value(name: string): Sql | Sql[]
  /** What a name is computed as, where it is a greatest or a least value; null for any other. */
  extreme(name: string): NodeOf<'call'> | null
}

/**
 * @param nullsCompare whether null is a value that `=` knows, as in FEEL (`null = 5` is false); else it stands for what is
 *   open, and SQL's own three truth values are what the core's evaluation makes of that
 * @throws GateError naming what SQL cannot say
 */
export function expressionToSql(tree: Node, names: Names, nullsCompare: boolean): Sql {
  return new Writer(names, nullsCompare).write(tree)
}

/** Rounds to the 34 digits of decimal128, where PostgreSQL's own quotient has fewer or more. */
function toDecimal128(of: Sql): Sql {
  return sql(`CAST(to_char(${of.text}, '9.${'9'.repeat(33)}EEEE') AS numeric)`)
}
/** A quotient of 34 digits, as in FEEL; null where it would be divided by nothing. */
export function quotient(of: Sql, by: Sql): Sql {
  return toDecimal128(sql(`round(${of.text}, ${PLACES}) / NULLIF(${by.text}, 0)`))
}

/** Places after the point that a division is carried to before that. */
const PLACES = 60

/** Functions that mean the same under another name, with as many arguments. */
const SAME: Record<string, string> = { abs: 'abs', 'string length': 'char_length', 'upper case': 'upper', 'lower case': 'lower' }
const ARITHMETIC_CLOSENESS = { '+': CLOSENESS.sum, '-': CLOSENESS.sum, '*': CLOSENESS.product } as const

class Writer extends ExpressionWriter<Sql> {
  constructor(private readonly names: Names, private readonly nullsCompare: boolean) {
    super(SQL, names, 'in SQL')
  }

  protected literal(value: Value): Sql {
    return literal(value)
  }

  protected name(node: NodeOf<'name'>): Sql {
    const value = this.names.value(node.name)
    return Array.isArray(value) ? this.refuse(node, 'a column set by itself') : value
  }

  protected negate(of: Node): Sql {
    return sql(`-${within(this.write(of), CLOSENESS.whole)}`, CLOSENESS.product)
  }

  protected arithmetic(node: NodeOf<'arithmetic'>): Sql {
    const { operator, left, right } = node
    const types = [this.typeOf(left), this.typeOf(right)]
    const [a, b] = [() => this.write(left), () => this.write(right)]
    if (types.every((type) => type === 'number')) {
      if (operator === '/') return quotient(a(), b())
      if (operator === '**') return this.power(node)
      return this.joined(operator, a(), b())
    }
    if (operator === '+' && types.every((type) => type === 'text')) return sql(`${within(a(), CLOSENESS.sum)} || ${within(b(), CLOSENESS.product)}`, CLOSENESS.sum)
    if (operator === '-' && types.every((type) => type === 'date')) return sql(`CAST(${within(a(), CLOSENESS.sum)} - ${within(b(), CLOSENESS.product)} AS numeric) * 86400`, CLOSENESS.product)
    const isDuration = (type: Type) => type === 'days and time duration' || type === 'years and months duration'
    if ((operator === '+' || operator === '-') && types.every(isDuration)) return this.joined(operator, a(), b())
    if ((operator === '+' || operator === '-') && types[0] === 'date' && isDuration(types[1]!)) return this.laterDay(node)
    return this.refuse(node, `“${operator}” of a ${String(types[0])} and a ${String(types[1])}`)
  }

  private joined(operator: '+' | '-' | '*', a: Sql, b: Sql): Sql {
    const closeness = ARITHMETIC_CLOSENESS[operator]
    return sql(`${within(a, closeness)} ${operator} ${within(b, closeness === CLOSENESS.sum ? CLOSENESS.product : CLOSENESS.whole)}`, closeness)
  }

  /** Small whole powers, as products; others would not have the same last digits. */
  private power(node: NodeOf<'arithmetic'>): Sql {
    const exponent = this.constant(node.right)
    const times = exponent !== undefined && isNumber(exponent) ? exponent.toNumber() : NaN
    if (![2, 3, 4].includes(times)) return this.refuse(node, 'A power other than 2, 3 and 4')
    const base = within(this.write(node.left), CLOSENESS.whole)
    return sql(Array.from({ length: times }, () => base).join(' * '), CLOSENESS.product)
  }

  private laterDay(node: NodeOf<'arithmetic'>): Sql {
    const amount = this.constant(node.right)
    const date = within(this.write(node.left), CLOSENESS.sum)
    if (amount !== undefined && amount !== null && typeof amount === 'object' && 'kind' in amount) {
      if (amount.kind === 'years and months duration') return sql(`CAST(${date} ${node.operator} INTERVAL '${amount.months} months' AS date)`)
      const days = amount.kind === 'days and time duration' ? amount.seconds.div(86_400) : null
      if (days?.isInteger()) return sql(`${date} ${node.operator} ${within(literal(days), CLOSENESS.whole)}`, CLOSENESS.sum)
    }
    return this.refuse(node, 'A date moved by anything but whole days, months or years')
  }

  protected override choice(node: NodeOf<'if'>): Sql {
    if (this.nullsCompare) return super.choice(node)
    // Where the condition is open, so is the result, unless both ways lead to the same.
    const [condition, then, otherwise] = [node.condition, node.then, node.otherwise].map((part) => this.write(part)) as [Sql, Sql, Sql]
    return caseOf([{ when: condition, then }, { when: negation(condition), then: otherwise }, { when: sql(`${within(then, CLOSENESS.sum)} = ${within(otherwise, CLOSENESS.sum)}`, CLOSENESS.comparison), then }], sql('NULL'))
  }

  /** What is compared with a greatest value is compared with each: one that is known may decide, whatever the others are. */
  private withExtreme(operator: NodeOf<'comparison'>['operator'], extreme: NodeOf<'call'>, other: Node): Sql {
    const items = itemsOf(extreme)!
    const each = (by: typeof operator) => items.map((item) => this.comparison(by, item, other))
    const isMax = extreme.name === 'max'
    if (operator === '=') return conjunction([...each(isMax ? '<=' : '>='), disjunction(each('='))])
    if (operator === '!=') return negation(this.withExtreme('=', extreme, other))
    return operator.startsWith('>') === isMax ? disjunction(each(operator)) : conjunction(each(operator))
  }

  private extremeOf(node: Node): NodeOf<'call'> | null {
    if (this.nullsCompare) return null
    const found = node.kind === 'name' ? this.names.extreme(node.name) : node.kind === 'call' && (node.name === 'max' || node.name === 'min') ? node : null
    return found && itemsOf(found) ? found : null
  }

  protected comparison(operator: NodeOf<'comparison'>['operator'], left: Node, right: Node): Sql {
    const [leftExtreme, rightExtreme] = [this.extremeOf(left), this.extremeOf(right)]
    if (leftExtreme && !rightExtreme && right.kind !== 'null') return this.withExtreme(operator, leftExtreme, right)
    if (rightExtreme && !leftExtreme && left.kind !== 'null') return this.withExtreme(MIRRORED[operator], rightExtreme, left)
    const type = this.typeOf(left) === 'null' ? this.typeOf(right) : this.typeOf(left)
    if (left.kind === 'null' || right.kind === 'null') {
      const [subject] = left.kind === 'null' ? [right] : [left]
      if (operator === '=' || operator === '!=') return is(expressionToSql(subject, this.names, true), operator === '=' ? 'NULL' : 'NOT NULL')
      return sql('NULL')
    }
    const [a, b] = [this.write(left), this.write(right)]
    if (operator === '=' && this.nullsCompare) return is(a, `NOT DISTINCT FROM ${within(b, CLOSENESS.sum)}`)
    if (operator === '!=' && this.nullsCompare) return isDistinct(a, b)
    // Texts are in the order of their code points, whatever the database's language is.
    const collation = type === 'text' && operator !== '=' && operator !== '!=' ? ' COLLATE "C"' : ''
    return sql(`${within(a, CLOSENESS.sum)}${collation} ${operator === '!=' ? '<>' : operator} ${within(b, CLOSENESS.sum)}`, CLOSENESS.comparison)
  }

  /** A range without one of its ends is null, and so is whether a value lies in it; where that is open, the other end may still tell. */
  protected inRange(_: Node, { low, high }: NodeOf<'range'>, inside: Sql): Sql {
    const open = [low, high].filter((end) => end !== null && freeNames(end).length > 0).map((end) => is(this.write(end!), 'NULL'))
    return open.length > 0 && this.nullsCompare ? caseOf([{ when: disjunction(open), then: sql('NULL') }], inside) : inside
  }

  protected property(node: NodeOf<'path'>): Sql {
    const type = this.typeOf(node.of)
    const of = () => this.write(node.of)
    if (type === 'date') {
      const field = { year: 'YEAR', month: 'MONTH', day: 'DAY', weekday: 'ISODOW' }[node.name]
      return field ? sql(`EXTRACT(${field} FROM ${of().text})`) : this.refuse(node, `“${node.name}”`)
    }
    if (type === 'days and time duration' && node.name === 'days') {
      const { of: inner } = node
      const isDates = inner.kind === 'arithmetic' && inner.operator === '-' && this.typeOf(inner.left) === 'date'
      if (isDates) return sql(`CAST(${within(this.write(inner.left), CLOSENESS.sum)} - ${within(this.write(inner.right), CLOSENESS.product)} AS numeric)`)
      return sql(`div(${of().text}, 86400)`)
    }
    if (type === 'years and months duration' && node.name === 'years') return sql(`div(${of().text}, 12)`)
    if (type === 'years and months duration' && node.name === 'months') return sql(`mod(${of().text}, 12)`)
    return this.refuse(node, `“${node.name}” of a ${String(type)}`)
  }

  protected call(node: NodeOf<'call'>): Sql {
    const { name, args } = node
    if (node.names) return this.refuse(node, 'A call with named arguments')
    const of = (at: number) => this.write(args[at]!)
    const [, pattern, by] = args
    const folding = name === 'replace' && args.length === 3 && FOLDING.find((known) => pattern!.kind === 'text' && pattern!.text === known.feel && by!.kind === 'text' && by!.text === known.sql.by)
    if (folding) return sql(`regexp_replace(${of(0).text}, '${folding.sql.pattern}', '${folding.sql.by}', 'g')`)
    if (SAME[name] && args.length === 1) return sql(`${SAME[name]}(${of(0).text})`)
    switch (name) {
      case 'not':
        return negation(of(0))
      case 'contains':
        return sql(`position(${of(1).text} IN ${of(0).text}) > 0`, CLOSENESS.comparison)
      case 'starts with':
        return sql(`left(${of(0).text}, char_length(${of(1).text})) = ${within(of(1), CLOSENESS.sum)}`, CLOSENESS.comparison)
      case 'ends with':
        return sql(`right(${of(0).text}, char_length(${of(1).text})) = ${within(of(1), CLOSENESS.sum)}`, CLOSENESS.comparison)
      case 'modulo': {
        const by = `NULLIF(${of(1).text}, 0)`
        return sql(`mod(mod(${of(0).text}, ${by}) + ${by}, ${by})`)
      }
      case 'floor': case 'ceiling': case 'round up': case 'round down': case 'round half up': case 'round half down': case 'decimal':
        return this.rounding(node)
      case 'sum': case 'mean': case 'min': case 'max': case 'count':
        return this.aggregate(node)
      case 'years and months duration':
        return this.typeOf(args[0]!) === 'date' && this.typeOf(args[1]!) === 'date' ? monthsBetween(of(0), of(1)) : this.refuse(node, 'A duration between times')
      default:
        return this.refuse(node, `The function “${name}”`)
    }
  }

  private rounding(node: NodeOf<'call'>): Sql {
    const scale = node.args[1] ? this.constant(node.args[1]) : new Decimal(0)
    if (scale === undefined || !isNumber(scale!) || !scale.isInteger() || scale.abs().gt(100)) return this.refuse(node, 'Rounding to a place that is not a constant')
    return roundingTo(node.name as Rounding, this.write(node.args[0]!), scale.toNumber())
  }

  private aggregate(node: NodeOf<'call'>): Sql {
    const { name, args } = node
    const [only] = args
    const set = args.length === 1 && only!.kind === 'name' ? this.names.value(only!.name) : null
    if (Array.isArray(set)) return aggregateOf(name, set)
    const items = args.length === 1 && only!.kind === 'list' ? only!.items : args
    if (items.some((item) => typeof this.typeOf(item) === 'object')) return this.refuse(node, 'A list that is computed')
    const members = items.map((item) => this.write(item))
    if (name === 'count') return sql(String(members.length))
    // In a list that is written out, a null makes all of it null; the set's members are only those there are.
    const isMissing = disjunction(members.map((member) => is(member, 'NULL')))
    return caseOf([{ when: negation(isMissing), then: aggregateOf(name, members) }], sql('NULL'))
  }
}

/** The values of which the greatest, or the least, is taken, where they are written out. */
function itemsOf({ args, names }: NodeOf<'call'>): readonly Node[] | null {
  const [only] = args
  if (names || args.length === 0) return null
  return args.length > 1 ? args : only!.kind === 'list' && only!.items.length > 0 ? only!.items : null
}

function aggregateOf(name: string, members: readonly Sql[]): Sql {
  if (members.length === 0) return name === 'count' ? sql('0') : sql('NULL')
  const from = `FROM (VALUES ${members.map(({ text }) => `(${text})`).join(', ')}) AS member (value)`
  if (name === 'mean') return toDecimal128(sql(`(SELECT round(sum(value), ${PLACES}) / NULLIF(count(value), 0) ${from})`))
  return sql(`(SELECT ${name}(value) ${from})`)
}

type Rounding = 'floor' | 'ceiling' | 'round up' | 'round down' | 'round half up' | 'round half down' | 'decimal'

/** @param places after the point; before it, where negative */
export function roundingTo(name: Rounding, of: Sql, places: number): Sql {
  const unit = (power: number) => new Decimal(10).pow(power).toFixed()
  const whole = places === 0 ? of.text : `${within(of, CLOSENESS.product)} * ${unit(places)}`
  const back = (text: string) => (places === 0 ? sql(text) : sql(`${text} * ${unit(-places)}`, CLOSENESS.product))
  switch (name) {
    case 'round half up':
      return sql(`round(${of.text}, ${places})`)
    case 'round down':
      return sql(`trunc(${of.text}, ${places})`)
    case 'floor':
      return back(`floor(${whole})`)
    case 'ceiling':
      return back(`ceil(${whole})`)
    case 'round up':
      return back(`sign(${of.text}) * ceil(abs(${whole}))`)
    case 'round half down':
      return back(`sign(${of.text}) * ceil(abs(${whole}) - 0.5)`)
    case 'decimal':
      // Twice the half, rounded, is even where the whole lies halfway.
      return caseOf([{ when: sql(`abs(${whole}) - trunc(abs(${whole})) = 0.5`, CLOSENESS.comparison), then: back(`round(${within(sql(whole, CLOSENESS.product), CLOSENESS.whole)} * 0.5, 0) * 2`) }], sql(`round(${of.text}, ${places})`))
  }
}

/** Completed months from one day to another. */
function monthsBetween(from: Sql, to: Sql): Sql {
  const months = ({ text }: Sql) => `EXTRACT(YEAR FROM ${text}) * 12 + EXTRACT(MONTH FROM ${text})`
  const difference = `(${months(to)}) - (${months(from)})`
  const days = (sign: string) => `EXTRACT(DAY FROM ${to.text}) ${sign} EXTRACT(DAY FROM ${from.text})`
  return caseOf([
    { when: sql(`${difference} > 0 AND ${days('<')}`, CLOSENESS.and), then: sql(`${difference} - 1`) },
    { when: sql(`${difference} < 0 AND ${days('>')}`, CLOSENESS.and), then: sql(`${difference} + 1`) },
  ], sql(difference))
}
