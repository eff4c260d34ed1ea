/** The types of an expression, and all that is wrong with it, before it runs (DMN 1.5 clause 10.3.2.9). */
import { parseTemporal } from '../value/temporal'
import { type Arrangement, arrangements } from './call'
import { BUILT_IN } from './functions/built-in'
import type { Parameter, Returns } from './functions/define'
import { nearestName } from './names'
import { compilePattern } from './pattern'
import { problem, type Problem, type ProblemCode } from './problem'
import { mentionsTested, type Node, type NodeOf, PARTIAL, TESTED } from './tree'
import { canBeEqual, commonType, FEEL_TYPE_NAMES, fits, isList, isOrdered, isRange, isSameType, type Type, typeNamed, typeText } from './type'

export interface Checked {
  /** What the expression comes to; `any` where something is wrong with it. */
  type: Type
  problems: Problem[]
}

/** @param types of the names that the expression may refer to */
export function checkExpression(tree: Node, types: ReadonlyMap<string, Type>): Checked {
  const checker = new Checker()
  const type = checker.typeOf(tree, types)
  return { type, problems: checker.problems.toSorted((a, b) => a.from - b.from) }
}

/** The same, for an expression that must be true or false. */
export function checkCondition(tree: Node, types: ReadonlyMap<string, Type>): Checked {
  const checked = checkExpression(tree, types)
  if (checked.problems.length > 0 || fits(checked.type, 'boolean')) return checked
  return { ...checked, problems: [problem('not-a-condition', tree.span, [typeText(checked.type)])] }
}

type Scope = ReadonlyMap<string, Type>

const DATE_PARTS = ['year', 'month', 'day', 'weekday'] as const
const TIME_PARTS = ['hour', 'minute', 'second', 'time offset'] as const
/** DMN 1.5 table 66, properties and what they are. */
const PROPERTIES: Partial<Record<string, readonly string[]>> = {
  date: DATE_PARTS,
  time: TIME_PARTS,
  'date and time': [...DATE_PARTS, ...TIME_PARTS],
  'days and time duration': ['days', 'hours', 'minutes', 'seconds'],
  'years and months duration': ['years', 'months'],
  range: ['start', 'end', 'start included', 'end included'],
}

class Checker {
  readonly problems: Problem[] = []

  typeOf(node: Node, scope: Scope): Type {
    switch (node.kind) {
      case 'number': case 'text': case 'boolean': case 'null':
        return node.kind
      case 'temporal':
        return parseTemporal(node.text)?.kind ?? this.report('bad-date', node, [node.text])
      case 'name':
        return scope.get(node.name) ?? this.report('unknown-name', node, [node.name], hint(nearestName(node.name, scope.keys())))
      case 'path':
        return this.path(node, scope)
      case 'list':
        return { list: node.items.map((item) => this.typeOf(item, scope)).reduce(commonType, 'null' as Type) }
      case 'range':
        return this.range(node, scope)
      case 'negate': {
        const type = this.typeOf(node.of, scope)
        return fits(type, 'number') || isDuration(type) ? type : this.report('type-clash', node, ['-', typeText(type)])
      }
      case 'arithmetic':
        return this.arithmetic(node, scope)
      case 'comparison':
        return this.comparison(node, scope)
      case 'between': {
        const type = this.typeOf(node.of, scope)
        this.ordered(type, this.typeOf(node.low, scope), node.low)
        this.ordered(type, this.typeOf(node.high, scope), node.high)
        return 'boolean'
      }
      case 'in':
        return this.membership(node, scope)
      case 'and': case 'or':
        for (const part of node.of) this.condition(part, scope)
        return 'boolean'
      case 'if':
        this.condition(node.condition, scope)
        return commonType(this.typeOf(node.then, scope), this.typeOf(node.otherwise, scope))
      case 'quantified':
        this.condition(node.satisfies, this.withVariables(node.variables, scope))
        return 'boolean'
      case 'for':
        return { list: this.typeOf(node.result, new Map<string, Type>([...this.withVariables(node.variables, scope), [PARTIAL, { list: 'any' }]])) }
      case 'filter':
        return this.filter(node, scope)
      case 'call':
        return this.call(node, scope)
      case 'function':
        this.typeOf(node.body, new Map([...scope, ...node.parameters.map((name): [string, Type] => [name, 'any'])]))
        return 'function'
      case 'instance of':
        this.typeOf(node.of, scope)
        return typeNamed(node.type) ? 'boolean' : this.report('unknown-type', node, [node.type], FEEL_TYPE_NAMES)
    }
  }

  private report(code: ProblemCode, at: Node, found: string[] = [], hint: string[] = []): Type {
    this.problems.push(problem(code, at.span, found, hint))
    return 'any'
  }

  private condition(node: Node, scope: Scope): void {
    const type = this.typeOf(node, scope)
    if (!fits(type, 'boolean')) this.report('not-a-condition', node, [typeText(type)])
  }

  private path({ of, name, ...node }: NodeOf<'path'>, scope: Scope): Type {
    const type = this.typeOf(of, scope)
    if (type === 'any') return 'any'
    const known = PROPERTIES[isRange(type) ? 'range' : isList(type) ? 'list' : type]
    if (!known?.includes(name)) return this.report('unknown-property', { of, name, ...node }, [name, typeText(type)], hint(known ? nearestName(name, known) : null))
    if (isRange(type)) return name.endsWith('included') ? 'boolean' : type.range
    return name === 'time offset' ? 'days and time duration' : 'number'
  }

  private range(node: NodeOf<'range'>, scope: Scope): Type {
    const ends = [node.low, node.high].filter((end) => end !== null)
    const types = ends.map((end) => this.typeOf(end, scope))
    for (const [at, type] of types.entries()) if (!isOrdered(type)) this.report('type-clash', ends[at]!, ['range', typeText(type)])
    if (types.length === 2 && !fits(types[0]!, types[1]!)) this.report('type-clash', node, types.map(typeText))
    return { range: types.reduce(commonType) }
  }

  private arithmetic(node: NodeOf<'arithmetic'>, scope: Scope): Type {
    const [left, right] = [this.typeOf(node.left, scope), this.typeOf(node.right, scope)]
    return arithmeticType(node.operator, left, right) ?? this.report('type-clash', node, [node.operator, typeText(left), typeText(right)])
  }

  private comparison(node: NodeOf<'comparison'>, scope: Scope): Type {
    const [left, right] = [this.typeOf(node.left, scope), this.typeOf(node.right, scope)]
    const isEquality = node.operator === '=' || node.operator === '!='
    if (!isEquality) {
      for (const [type, side] of [[left, node.left], [right, node.right]] as const) {
        if (!isOrdered(type)) this.report('type-clash', side, [node.operator, typeText(type)])
      }
    }
    if (!canBeEqual(left, right)) this.report('type-clash', node, [node.operator, typeText(left), typeText(right)])
    return 'boolean'
  }

  private ordered(type: Type, end: Type, at: Node): void {
    if (!isOrdered(end) || !isOrdered(type) || !fits(type, end)) this.report('type-clash', at, ['between', typeText(type), typeText(end)])
  }

  private membership(node: NodeOf<'in'>, scope: Scope): Type {
    const type = this.typeOf(node.of, scope)
    const inner = new Map([...scope, [TESTED, type] as const])
    for (const test of node.tests) {
      const tested = this.typeOf(test, inner)
      // A test is a range or a list of such values, one such value, or a condition on `?`.
      const isOfItems = isList(tested) && (!isList(type) || isList(tested.list))
      const wanted = isRange(tested) ? tested.range : isOfItems ? tested.list : tested
      const isCondition = tested === 'boolean' && mentionsTested(test)
      const isListOfRanges = isRange(wanted) && fits(type, wanted.range)
      if (!isCondition && !isListOfRanges && !fits(type, wanted) && wanted !== 'null') this.report('type-clash', test, ['in', typeText(type), typeText(wanted)])
    }
    return 'boolean'
  }

  private withVariables(variables: NodeOf<'for'>['variables'], scope: Scope): Scope {
    let inner = scope
    for (const { name, over } of variables) {
      const type = this.typeOf(over, inner)
      const item = isList(type) ? type.list : isRange(type) ? type.range : type === 'any' || type === 'null' ? 'any' : this.report('type-clash', over, ['in', typeText(type)])
      inner = new Map([...inner, [name, item]])
    }
    return inner
  }

  private filter(node: NodeOf<'filter'>, scope: Scope): Type {
    const type = this.typeOf(node.of, scope)
    const item = isList(type) ? type.list : type
    const by = this.typeOf(node.by, new Map([...scope, ['item', item]]))
    if (by === 'number') return item
    if (!fits(by, 'boolean')) this.report('type-clash', node.by, ['filter', typeText(by)])
    return by === 'any' ? 'any' : { list: item }
  }

  private call(node: NodeOf<'call'>, scope: Scope): Type {
    const types = node.args.map((arg) => this.typeOf(arg, scope))
    const builtIn = BUILT_IN.get(node.name)!
    const candidates = arrangements(builtIn, types.map((type, at) => ({ type, node: node.args[at]! })), node.names)
    if (candidates.length === 0) {
      const written = builtIn.variants.map(({ parameters }) => `${node.name}(${parameters.map(parameterText).join(', ')})`)
      return this.report(node.names ? 'argument-name' : 'argument-count', node, [node.name], written)
    }
    const misfits = candidates.map((candidate) => ({ candidate, misfit: firstMisfit(candidate) }))
    const right = misfits.find(({ misfit }) => misfit === null)
    if (!right) {
      const { misfit } = misfits[0]!
      return this.report('argument-type', misfit!.node, [node.name, misfit!.parameter.name, typeText(misfit!.type)], candidates.map((_, at) => typeText(misfits[at]!.misfit!.parameter.type)))
    }
    this.constants(node)
    return returned(right.candidate.variant.returns, right.candidate)
  }

  /** Dates and patterns written out can be wrong already. */
  private constants({ name, args }: NodeOf<'call'>): void {
    const [first, second] = args
    if (['date', 'time', 'date and time', 'duration'].includes(name) && args.length === 1 && first!.kind === 'text') {
      const kind = parseTemporal(first!.text)?.kind
      const isRight = name === 'duration' ? kind?.endsWith('duration') : kind === name || (name === 'date and time' && kind === 'date')
      if (!isRight) this.report('bad-date', first!, [first!.text])
    }
    if (['matches', 'replace', 'split'].includes(name) && second?.kind === 'text' && !compilePattern(second.text)) this.report('bad-pattern', second, [second.text])
  }
}

interface Arg {
  type: Type
  node: Node
}

function firstMisfit({ places }: Arrangement<Arg>): (Arg & { parameter: Parameter }) | null {
  for (const { parameter, args } of places) {
    for (const { type, node } of args) {
      if (!argumentFits(type, parameter, args.length)) return { type, node, parameter }
    }
  }
  return null
}

/** A value may stand for the list of it, and a list of one for what it holds (DMN 1.5 clause 10.3.2.9.4). */
function argumentFits(type: Type, { type: wanted, many }: Parameter, count: number): boolean {
  if (many === 'gathered' && count === 1 && isList(type)) return fits(type.list, wanted)
  return fits(type, wanted) || (isList(wanted) && fits(type, wanted.list)) || (isList(type) && !isList(wanted) && fits(type.list, wanted))
}

function returned(returns: Returns, { places }: Arrangement<Arg>): Type {
  const args = places[0]?.args ?? []
  if (returns === 'same') return args.map(({ type }): Type => (isList(type) ? type : { list: type })).reduce(commonType)
  if (returns !== 'item') return returns
  return args.map(({ type }) => (args.length === 1 && isList(type) ? type.list : type)).reduce(commonType)
}

function parameterText({ name, isOptional, many }: Parameter): string {
  return `${name}${isOptional ? '?' : many === 'no' ? '' : ' …'}`
}

function isDuration(type: Type): boolean {
  return type === 'days and time duration' || type === 'years and months duration'
}

const MOMENTS: readonly Type[] = ['date', 'time', 'date and time']

/** DMN 1.5 tables 55 to 59; null where the operator says nothing of these types. */
function arithmeticType(operator: NodeOf<'arithmetic'>['operator'], left: Type, right: Type): Type | null {
  if (left === 'null' || right === 'null') return 'any'
  if (left === 'any' || right === 'any') return left === 'number' && operator === '**' ? 'number' : 'any'
  if (left === 'number' && right === 'number') return 'number'
  const isSame = isSameType(left, right)
  switch (operator) {
    case '+':
      if (isSame && (left === 'text' || isDuration(left))) return left
      if (isDuration(left) && MOMENTS.includes(right)) return left === 'years and months duration' && right === 'time' ? null : right
      return isDuration(right) && MOMENTS.includes(left) && !(right === 'years and months duration' && left === 'time') ? left : null
    case '-':
      if (isSame && isDuration(left)) return left
      if (MOMENTS.includes(left) && MOMENTS.includes(right) && (left === 'time') === (right === 'time')) return 'days and time duration'
      return isDuration(right) && MOMENTS.includes(left) && !(right === 'years and months duration' && left === 'time') ? left : null
    case '*':
      return left === 'number' && isDuration(right) ? right : right === 'number' && isDuration(left) ? left : null
    case '/':
      return isDuration(left) && right === 'number' ? left : isDuration(left) && isSame ? 'number' : null
    case '**':
      return null
  }
}

function hint(name: string | null): string[] {
  return name === null ? [] : [name]
}
