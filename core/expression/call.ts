/** Which way of calling a built-in function is meant, and the arguments put in the order of its parameters. */
import type { BuiltIn, Parameter, Variant } from './functions/define'

/** The arguments of one parameter: none where it is optional and missing, several where it may be repeated. */
export interface Arrangement<Arg> {
  variant: Variant
  places: { parameter: Parameter; args: readonly Arg[] }[]
}

/** The ways of calling `builtIn` that this number of arguments, or these names of parameters, allow. */
export function arrangements<Arg>(builtIn: BuiltIn, args: readonly Arg[], names: readonly string[] | null): Arrangement<Arg>[] {
  return builtIn.variants.flatMap((variant) => {
    const places = names ? byName(variant.parameters, args, names) : byPlace(variant.parameters, args)
    return places ? [{ variant, places }] : []
  })
}

function byPlace<Arg>(parameters: readonly Parameter[], args: readonly Arg[]): Arrangement<Arg>['places'] | null {
  const places = parameters.map((parameter, at) => ({
    parameter,
    args: parameter.many === 'no' ? args.slice(at, at + 1) : args.slice(at),
  }))
  const taken = places.reduce((total, { args }) => total + args.length, 0)
  const isFilled = places.every(({ parameter, args }) => args.length > 0 || parameter.isOptional)
  return isFilled && taken === args.length ? places : null
}

function byName<Arg>(parameters: readonly Parameter[], args: readonly Arg[], names: readonly string[]): Arrangement<Arg>['places'] | null {
  const isKnown = names.every((name, at) => parameters.some((parameter) => parameter.name === name) && names.indexOf(name) === at)
  const places = parameters.map((parameter) => ({ parameter, args: names.includes(parameter.name) ? [args[names.indexOf(parameter.name)]!] : [] }))
  return isKnown && places.every(({ parameter, args }) => args.length > 0 || parameter.isOptional) ? places : null
}
