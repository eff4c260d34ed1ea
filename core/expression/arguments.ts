/** The arguments of a call, in the ways in which it can be meant, and as its parameters want them. */
import { isList, kindOf, type Value } from '../value/value'
import { arrangements } from './call'
import { BUILT_IN } from './functions/built-in'
import type { Parameter, Variant } from './functions/define'
import type { Node, NodeOf } from './tree'

type Plan = { variant: Variant; places: { parameter: Parameter; args: readonly number[] }[] }

const plans = new WeakMap<Node, readonly Plan[]>()

/** The ways in which a call can be meant, with the places of its arguments: made once. */
export function plansOf(node: NodeOf<'call'>): readonly Plan[] {
  const known = plans.get(node)
  if (known) return known
  const builtIn = BUILT_IN.get(node.name)
  const made = builtIn ? arrangements(builtIn, node.args.map((_, at) => at), node.names) : []
  plans.set(node, made)
  return made
}

/** The arguments as the parameter wants them; undefined where they cannot be. */
export function argumentFor({ type, isOptional, isNullable, many }: Parameter, args: readonly Value[]): Value[] | undefined {
  if (many === 'gathered') {
    const [only] = args
    const items = args.length === 1 && isList(only!) ? only : args
    return args.length === 1 && only === null ? undefined : [items]
  }
  if (args.length === 0) return isOptional ? [null] : undefined
  if (isNullable && args[0] === null) return [null]
  const converted = args.map((arg) => convert(arg, type))
  return converted.includes(undefined) ? undefined : (converted as Value[])
}

/** DMN 1.5 clause 10.3.2.9.4: a list of one stands for what it holds, a value for the list of it. */
function convert(value: Value, type: Parameter['type']): Value | undefined {
  if (type === 'any') return value
  if (value === null) return undefined
  const kind = kindOf(value)
  if (typeof type === 'object') return 'list' in type ? (isList(value) ? value : [value]) : kind === 'range' ? value : undefined
  if (kind === type) return value
  return isList(value) && value.length === 1 && kindOf(value[0]!) === type ? value[0] : undefined
}
