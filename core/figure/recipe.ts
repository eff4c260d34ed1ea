/** Figures that can be said as a sentence with choices in it, and the expressions that they stand for. */
import { parseExpression } from '../expression/parse'
import { printExpression } from '../expression/print'
import { childrenOf, freeNames, type Node } from '../expression/tree'
import { wholeSetName } from './figure'

/** What becomes of values that are not there. */
export const BLANK_WAYS = ['leave out', 'count as nothing', 'hold'] as const
export type BlankWay = (typeof BLANK_WAYS)[number]

export const GATHERINGS = ['mean', 'sum', 'max', 'min', 'median', 'count'] as const
export type Gathering = (typeof GATHERINGS)[number]

export const LENGTHS = ['completed years', 'completed months', 'days'] as const
export type Length = (typeof LENGTHS)[number]

export const ROUNDINGS = ['half up', 'half even', 'down'] as const
export type FigureRounding = { how: (typeof ROUNDINGS)[number]; places: number }

/** Names are those of columns, but for `set`. */
export type Part =
  | { kind: 'gather'; how: Gathering; set: string; blanks: BlankWay }
  | { kind: 'full marks'; set: string; marks: string }
  | { kind: 'weighted mean'; of: { name: string; weight: string }[] }
  | { kind: 'ratio'; over: string; under: string; times: string }
  | { kind: 'product'; one: string; other: string }
  | { kind: 'difference'; of: string; less: string }
  | { kind: 'growth'; now: string; before: string }
  | { kind: 'days until'; date: string }
  | { kind: 'length since'; date: string; as: Length }

export interface Recipe {
  part: Part
  rounding: FigureRounding | null
}

export function recipeFeel({ part, rounding }: Recipe): string {
  const feel = partFeel(part)
  if (!rounding) return feel
  return `${ROUNDING_FUNCTIONS[rounding.how]}(${feel}, ${rounding.places})`
}

const ROUNDING_FUNCTIONS: Record<FigureRounding['how'], string> = { 'half up': 'round half up', 'half even': 'decimal', down: 'round down' }

function partFeel(part: Part): string {
  switch (part.kind) {
    case 'gather': {
      const { how, set, blanks } = part
      const whole = wholeSetName(set)
      if (blanks === 'leave out' || how === 'count') return `${how}(${set})`
      return blanks === 'hold' ? `${how}(${whole})` : `${how}(for one in ${whole} return if one = null then 0 else one)`
    }
    case 'full marks':
      return `100 * sum(${part.set}) / (${part.marks} * count(${part.set}))`
    case 'weighted mean':
      return `(${part.of.map(({ name, weight }) => `${weight} * ${name}`).join(' + ')}) / (${part.of.map(({ weight }) => weight).join(' + ')})`
    case 'ratio':
      return part.times === '1' ? `${part.over} / ${part.under}` : `${part.times} * ${part.over} / ${part.under}`
    case 'product':
      return `${part.one} * ${part.other}`
    case 'difference':
      return `${part.of} - ${part.less}`
    case 'growth':
      return `100 * (${part.now} - ${part.before}) / ${part.before}`
    case 'days until':
      return `(${part.date} - today()).days`
    case 'length since':
      return lengthFeel(part.date, part.as)
  }
}

/** A duration of years and months has both: 7 years and 11 months are 95 completed months. */
function lengthFeel(date: string, as: Length): string {
  const since = `years and months duration(${date}, today())`
  if (as === 'completed years') return `${since}.years`
  return as === 'days' ? `(today() - ${date}).days` : `12 * ${since}.years + ${since}.months`
}

/**
 * The sentence that says the same as an expression; null where none does.
 * @param names what the expression may refer to
 * @param sets names of column sets
 */
export function recipeOf(feel: string, names: readonly string[], sets: readonly string[]): Recipe | null {
  const parsed = parseExpression(feel, names)
  if ('problem' in parsed) return null
  const { rounding, tree } = roundingOf(parsed.tree)
  const text = printExpression(tree)
  const same = (part: Part) => {
    const own = parseExpression(partFeel(part), names)
    return 'tree' in own && printExpression(own.tree) === text
  }
  const part = candidates(tree, sets).find(same)
  return part ? { part, rounding } : null
}

function roundingOf(tree: Node): { rounding: FigureRounding | null; tree: Node } {
  if (tree.kind !== 'call' || tree.args.length !== 2) return { rounding: null, tree }
  const how = ROUNDINGS.find((one) => ROUNDING_FUNCTIONS[one] === tree.name)
  const [of, places] = tree.args as [Node, Node]
  return how && places.kind === 'number' && /^\d{1,2}$/.test(places.number)
    ? { rounding: { how, places: Number(places.number) }, tree: of }
    : { rounding: null, tree }
}

/** What an expression of these names and numbers could be, if it is anything that a sentence can say. */
function candidates(tree: Node, sets: readonly string[]): Part[] {
  const names = freeNames(tree)
  const numbers = numbersIn(tree)
  const own = sets.filter((set) => names.includes(set) || names.includes(wholeSetName(set)))
  const [one, other] = names
  if (own.length > 0)
    return own.flatMap((set): Part[] => [
      ...GATHERINGS.flatMap((how) => BLANK_WAYS.map((blanks): Part => ({ kind: 'gather', how, set, blanks }))),
      ...numbers.map((marks): Part => ({ kind: 'full marks', set, marks })),
    ])
  if (one === undefined) return []
  const weighted: Part = { kind: 'weighted mean', of: names.map((name, at) => ({ name, weight: numbers[at] ?? '1' })) }
  if (other === undefined)
    return [
      { kind: 'days until', date: one },
      ...LENGTHS.map((as): Part => ({ kind: 'length since', date: one, as })),
      { kind: 'product', one, other: one },
    ]
  return [
    { kind: 'ratio', over: one, under: other, times: numbers[0] ?? '1' },
    { kind: 'product', one, other },
    { kind: 'difference', of: one, less: other },
    { kind: 'growth', now: one, before: other },
    weighted,
  ]
}

function numbersIn(tree: Node): string[] {
  return tree.kind === 'number' ? [tree.number] : childrenOf(tree).flatMap(numbersIn)
}

/** The unit that a recipe has whatever it looks at; null where that follows from the units of its columns. */
export function recipeUnit({ part }: Recipe): string | null {
  return part.kind === 'full marks' || part.kind === 'growth' ? '%' : null
}
