/** FEEL expressions in another language: what is the same whichever it is. */
import { checkExpression } from '@dime-gate/core/expression/check'
import { evaluate } from '@dime-gate/core/expression/evaluate'
import { printExpression } from '@dime-gate/core/expression/print'
import { freeNames, mentionsTested, type Node, type NodeOf } from '@dime-gate/core/expression/tree'
import type { Type } from '@dime-gate/core/expression/type'
import { asksForDay } from '@dime-gate/core/rule/used-inputs'
import type { DateValue, Value } from '@dime-gate/core/value/value'
import { GateError } from '../gate-error'
import type { Language, Piece } from './language'

/** What an expression may refer to. */
export interface WriterScope {
  types: ReadonlyMap<string, Type>
  /** Null where nobody said what day it is. */
  today: DateValue | null
}

export abstract class ExpressionWriter<P extends Piece> {
  /** @param where in words, for what cannot be said there: `in SQL` */
  constructor(private readonly language: Language<P>, private readonly scope: WriterScope, private readonly where: string) {}

  protected abstract literal(value: Value): P
  protected abstract name(node: NodeOf<'name'>): P
  protected abstract negate(of: Node): P
  protected abstract arithmetic(node: NodeOf<'arithmetic'>): P
  protected abstract comparison(operator: NodeOf<'comparison'>['operator'], left: Node, right: Node): P
  protected abstract property(node: NodeOf<'path'>): P
  protected abstract call(node: NodeOf<'call'>): P
  /** Whether a value lies in a range; the tests of its ends are `inside`. */
  protected abstract inRange(of: Node, range: NodeOf<'range'>, inside: P): P

  /** @throws GateError naming what the language cannot say */
  write(node: Node): P {
    const { language } = this
    const constant = this.constant(node)
    if (constant !== undefined) return this.literal(constant)
    switch (node.kind) {
      case 'name':
        return this.name(node)
      case 'negate':
        return this.negate(node.of)
      case 'arithmetic':
        return this.arithmetic(node)
      case 'comparison':
        return this.comparison(node.operator, node.left, node.right)
      case 'between':
        return language.all([this.comparison('>=', node.of, node.low), this.comparison('<=', node.of, node.high)])
      case 'in':
        return language.any(node.tests.map((test) => this.membership(node.of, test)))
      case 'and':
        return language.all(node.of.map((part) => this.write(part)))
      case 'or':
        return language.any(node.of.map((part) => this.write(part)))
      case 'if':
        return this.choice(node)
      case 'path':
        return this.property(node)
      case 'call':
        return this.call(node)
      default:
        return this.refuse(node, `“${node.kind}”`)
    }
  }

  protected choice({ condition, then, otherwise }: NodeOf<'if'>): P {
    return this.language.cases([{ when: this.write(condition), then: this.write(then) }], this.write(otherwise))
  }

  protected refuse(node: Node, what: string): never {
    throw new GateError(`${what} cannot be written ${this.where}: ${printExpression(node)}`)
  }

  /** What needs no record to be known; undefined for all else. */
  protected constant(node: Node): Value | undefined {
    if (freeNames(node).length > 0 || node.kind === 'list' || node.kind === 'range') return undefined
    const { today } = this.scope
    if (!today && asksForDay(node)) throw new GateError('The gate asks what day it is. Say which day counts as today.')
    return evaluate(node, { value: () => null, today: today ?? { kind: 'date', day: 0 } })
  }

  protected typeOf(node: Node): Type {
    return checkExpression(node, this.scope.types).type
  }

  private membership(of: Node, test: Node): P {
    if (mentionsTested(test)) return this.refuse(test, 'A test on “?”')
    if (test.kind === 'list') return this.language.any(test.items.map((item) => this.membership(of, item)))
    if (test.kind !== 'range') return this.comparison('=', of, test)
    const { low, high, lowIncluded, highIncluded } = test
    return this.inRange(of, test, this.language.all([
      ...(low ? [this.comparison(lowIncluded ? '>=' : '>', of, low)] : []),
      ...(high ? [this.comparison(highIncluded ? '<=' : '<', of, high)] : []),
    ]))
  }
}
