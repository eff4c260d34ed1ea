/** Units of what an expression comes to, and where units do not go together. Symbols as in ISO 80000-1, as far as they are commonly written. */
import { childrenOf, type Node, type NodeOf, type Span } from '../expression/tree'
import { Decimal, plain } from '../value/number'

export interface UnitTrouble {
  words: string
  span: Span
  /** The whole expression with the trouble taken out; null where only people can say what is meant. */
  converted: string | null
}

export interface UnitFound {
  /** Empty where it is a number, or where it cannot be told. */
  unit: string
  troubles: UnitTrouble[]
}

/** How much of the first of its kind one of it is. */
const KINDS: Record<string, Record<string, string>> = {
  length: { m: '1', km: '1000', dm: '0.1', cm: '0.01', mm: '0.001' },
  mass: { kg: '1', t: '1000', g: '0.001', mg: '0.000001' },
  time: { s: '1', min: '60', h: '3600' },
  volume: { l: '1', ml: '0.001' },
  calendar: { months: '1', years: '12' },
}
const KIND_OF = new Map(Object.entries(KINDS).flatMap(([kind, symbols]) => Object.keys(symbols).map((symbol) => [symbol, kind] as const)))

interface Power {
  symbol: string
  power: number
}

/** So many of these make one of what the number counts: of 100 × a length in m, 0.01 m. */
interface Quantity {
  by: ReadonlyMap<string, Power>
  factor: Decimal
  /** Whether a number that somebody wrote, which takes any unit. */
  isFree: boolean
}

const ONE = new Decimal(1)
const FREE: Quantity = { by: new Map(), factor: ONE, isFree: true }
const NUMBER: Quantity = { ...FREE, isFree: false }

/** @param text of which `tree` is. @param unitOf by name; empty where it has none, null for what is no number */
export function unitOfFigure(tree: Node, text: string, unitOf: (name: string) => string | null): UnitFound {
  const reader = new Reader(text, unitOf)
  const found = reader.read(tree)
  return { unit: found ? written(found) : '', troubles: reader.troubles }
}

/** Functions whose result has the unit of what they are given. */
const KEEPING = new Set(['mean', 'sum', 'min', 'max', 'median', 'mode', 'stddev', 'abs'])
/** Those of which the first argument alone is measured. */
const ROUNDING = new Set(['round half up', 'round half down', 'round half even', 'round up', 'round down', 'decimal', 'floor', 'ceiling'])
const LENGTHS = new Set(['days', 'months', 'years', 'hours', 'minutes', 'seconds'])

class Reader {
  readonly troubles: UnitTrouble[] = []
  private readonly variables = new Map<string, Quantity | null>()

  constructor(
    private readonly text: string,
    private readonly unitOf: (name: string) => string | null,
  ) {}

  /** @returns null where it is no number, or cannot be told */
  read(node: Node): Quantity | null {
    switch (node.kind) {
      case 'number':
        return FREE
      case 'name': {
        if (this.variables.has(node.name)) return this.variables.get(node.name)!
        const unit = this.unitOf(node.name)
        return unit === null ? null : quantityOf(unit)
      }
      case 'negate':
        return this.read(node.of)
      case 'arithmetic':
        return this.arithmetic(node)
      case 'comparison':
        this.alike([node.left, node.right], 'compared')
        return null
      case 'between':
        this.alike([node.of, node.low, node.high], 'compared')
        return null
      case 'in':
        this.alike([node.of, ...node.tests.flatMap((test) => (test.kind === 'range' ? childrenOf(test) : [test]))], 'compared')
        return null
      case 'if':
        this.read(node.condition)
        return this.alike([node.then, node.otherwise], 'taken for one another')
      case 'for': {
        const [first] = node.variables
        if (node.variables.length !== 1 || !first) return null
        this.variables.set(first.name, this.read(first.over))
        return this.read(node.result)
      }
      case 'list':
        return this.alike(node.items, 'put together')
      case 'path':
        this.read(node.of)
        return LENGTHS.has(node.name) ? quantityOf(node.name) : null
      case 'call':
        return this.call(node)
      default:
        childrenOf(node).forEach((child) => this.read(child))
        return null
    }
  }

  private call({ name, args }: NodeOf<'call'>): Quantity | null {
    if (KEEPING.has(name)) return this.alike(args, 'put together')
    if (ROUNDING.has(name) && args[0]) return this.read(args[0])
    args.forEach((arg) => this.read(arg))
    return name === 'count' || name === 'string length' ? NUMBER : null
  }

  private arithmetic({ operator, left, right }: NodeOf<'arithmetic'>): Quantity | null {
    if (operator === '+' || operator === '-') return this.alike([left, right], operator === '+' ? 'added' : 'taken from one another')
    const [a, b] = [this.read(left), this.read(right)]
    if (!a || !b) return null
    if (operator === '**') return right.kind === 'number' && /^\d$/.test(right.number) ? raised(a, Number(right.number)) : null
    const [times, over] = [numberIn(left), numberIn(right)]
    if (operator === '*' && times !== null) return scaled(b, ONE.dividedBy(times))
    if (operator === '*' && over !== null) return scaled(a, ONE.dividedBy(over))
    if (operator === '/' && over !== null) return scaled(a, over)
    const made = combined(a, b, operator === '/' ? -1 : 1)
    this.tellCancelled(a, b, made, right)
    return made
  }

  /** Units that cancel each other but for a number: cm over m comes out a hundred times too large. */
  private tellCancelled(a: Quantity, b: Quantity, made: Quantity, right: Node): void {
    // 100 × m over m is so many percent, and meant so.
    const isAlike = [...a.by].every(([kind, { symbol }]) => b.by.get(kind)?.symbol === symbol)
    if (made.by.size > 0 || a.by.size === 0 || isAlike || made.factor.equals(1)) return
    const [one, other] = [written(a), written(b)]
    if (one === '' || other === '' || one === other) return
    this.troubles.push({
      words: `${one} and ${other} cancel each other but for ${times(made.factor)}.`,
      span: right.span,
      converted: this.converted(right, b.by.size === 1 ? factorBetween(b, a) : null),
    })
  }

  /** Values that are added or compared. @returns the unit that they have in common; the first one's where they have none */
  private alike(nodes: readonly Node[], doing: string): Quantity | null {
    const read = nodes.map((node) => ({ node, found: this.read(node) }))
    const first = read.find(({ found }) => found && !found.isFree)
    if (!first) return read.some(({ found }) => found === null) ? null : FREE
    for (const { node, found } of read) {
      if (node === first.node || !found) continue
      if (found.isFree) this.tellFraction(first.found!, node)
      else if (!isSame(found, first.found!)) this.tellDifference(first, { node, found }, doing)
    }
    return read.some(({ found }) => found === null) ? null : first.found
  }

  private tellFraction(beside: Quantity, node: Node): void {
    const value = numberIn(node)
    if (written(beside) !== '%' || value === null || value.isZero() || value.abs().greaterThanOrEqualTo(1)) return
    const percent = plain(value.times(100))
    this.troubles.push({
      words: `Beside percent ${plain(value)} looks like a fraction; ${percent} would be that many percent.`,
      span: node.span,
      converted: this.replaced(node.span, percent),
    })
  }

  private tellDifference(first: { node: Node; found: Quantity | null }, other: { node: Node; found: Quantity }, doing: string): void {
    const [one, two] = [written(first.found!) || 'a number without a unit', written(other.found) || 'a number without a unit']
    const factor = factorBetween(other.found, first.found!)
    const isPercent = (written(other.found) === '') !== (written(first.found!) === '') && [one, two].includes('%')
    this.troubles.push({
      words: `${one} and ${two} are ${doing}${isPercent ? ': percent against what may be a fraction' : ''}.`,
      span: other.node.span,
      converted: this.converted(other.node, factor ?? (isPercent ? new Decimal(two === '%' ? '0.01' : '100') : null)),
    })
  }

  private converted(node: Node, factor: Decimal | null): string | null {
    if (factor === null) return null
    const text = this.text.slice(node.span.from, node.span.to)
    const whole = node.kind === 'arithmetic' && (node.operator === '+' || node.operator === '-') ? `(${text})` : text
    const by = factor.greaterThanOrEqualTo(1) ? ` * ${plain(factor)}` : ` / ${plain(ONE.dividedBy(factor))}`
    return this.replaced(node.span, `(${whole}${by})`)
  }

  private replaced({ from, to }: Span, text: string): string {
    return this.text.slice(0, from) + text + this.text.slice(to)
  }
}

function numberIn(node: Node): Decimal | null {
  if (node.kind === 'negate') return numberIn(node.of)?.negated() ?? null
  return node.kind === 'number' ? new Decimal(node.number) : null
}

function times(factor: Decimal): string {
  return factor.greaterThanOrEqualTo(1) ? plain(factor) : `1/${plain(ONE.dividedBy(factor))}`
}

/** @returns by what a number of the one has to be multiplied to count the other; null where that is not so of these */
function factorBetween(from: Quantity, to: Quantity): Decimal | null {
  if (from.by.size !== to.by.size) return null
  let factor = from.factor.dividedBy(to.factor)
  for (const [kind, { symbol, power }] of from.by) {
    const other = to.by.get(kind)
    if (!other || other.power !== power) return null
    factor = factor.times(new Decimal(sizeOf(symbol)).dividedBy(sizeOf(other.symbol)).pow(power))
  }
  return factor
}

function isSame(one: Quantity, other: Quantity): boolean {
  return factorBetween(one, other)?.equals(1) ?? false
}

function sizeOf(symbol: string): string {
  return KINDS[KIND_OF.get(symbol) ?? '']?.[symbol] ?? '1'
}

function combined(a: Quantity, b: Quantity, sign: 1 | -1): Quantity {
  const by = new Map(a.by)
  let factor = sign === 1 ? a.factor.times(b.factor) : a.factor.dividedBy(b.factor)
  for (const [kind, { symbol, power }] of b.by) {
    const before = by.get(kind)
    const now = (before?.power ?? 0) + sign * power
    // Told in the first one's symbol: so many of it is one of the other.
    if (before) factor = factor.times(new Decimal(sizeOf(symbol)).dividedBy(sizeOf(before.symbol)).pow(sign * power))
    if (now === 0) by.delete(kind)
    else by.set(kind, { symbol: before?.symbol ?? symbol, power: now })
  }
  return { by, factor, isFree: a.isFree && b.isFree }
}

/** 100 × a length in m counts centimetres; 3 × one is as much of metres as before. */
function scaled(of: Quantity, by: Decimal): Quantity {
  const made = { ...of, factor: of.factor.times(by) }
  return of.by.size === 0 || symbolOf(made) !== null ? made : of
}

/** The symbol of which it is so many times one, where it is of one kind; null where there is none. */
function symbolOf({ by, factor }: Quantity): string | null {
  const [only] = [...by]
  if (by.size !== 1 || !only) return null
  const [kind, { symbol, power }] = only
  const wanted = factor.times(new Decimal(sizeOf(symbol)).pow(power))
  return Object.entries(KINDS[kind] ?? { [symbol]: '1' }).find(([, size]) => wanted.equals(new Decimal(size).pow(power)))?.[0] ?? null
}

function raised({ by, factor, isFree }: Quantity, to: number): Quantity {
  return {
    by: to === 0 ? new Map() : new Map([...by].map(([kind, { symbol, power }]) => [kind, { symbol, power: power * to }])),
    factor: factor.pow(to),
    isFree,
  }
}

const DIGITS: Record<string, number> = { '¹': 1, '²': 2, '³': 3 }

/** As people write it: `m`, `kg/m²`, `trees/km`. What is unknown stands for itself. */
function quantityOf(unit: string): Quantity {
  const by = new Map<string, Power>()
  unit
    .trim()
    .split('/')
    .forEach((side, at) => {
      for (const part of side.split(/[·*]/)) {
        const [, symbol = '', raise] = /^(.*?)([¹²³]|\^\d)?$/.exec(part.trim())!
        if (symbol === '' || symbol === '1') continue
        const kind = KIND_OF.get(symbol) ?? symbol
        const power = (at === 0 ? 1 : -1) * (raise === undefined ? 1 : (DIGITS[raise] ?? Number(raise.slice(1))))
        by.set(kind, { symbol, power: (by.get(kind)?.power ?? 0) + power })
      }
    })
  return { by, factor: ONE, isFree: false }
}

/** Empty where it is a number, or so many of a unit that has no name. */
function written(of: Quantity): string {
  let powers = [...of.by]
  if (!of.factor.equals(1)) {
    const symbol = symbolOf(of)
    if (symbol === null) return ''
    powers = powers.map(([kind, one]) => [kind, { ...one, symbol }])
  }
  const side = (isOver: boolean) =>
    powers
      .filter(([, { power }]) => power > 0 === isOver)
      .map(
        ([, { symbol, power }]) =>
          `${symbol}${Math.abs(power) === 1 ? '' : (['', '', '²', '³'][Math.abs(power)] ?? `^${Math.abs(power)}`)}`,
      )
      .join('·')
  const [over, under] = [side(true), side(false)]
  return under === '' ? over : `${over === '' ? '1' : over}/${under}`
}
