/** FEEL text to tree, by recursive descent (DMN 1.5 clause 10.3.1.2; the rules of its grammar are named in brackets). */
import type { ArithmeticOperator } from '../value/arithmetic'
import { type Names, namesOf } from './names'
import { Operands } from './operands'
import { ExpressionError, problem, type Problem } from './problem'
import { tokensOf } from './tokens'
import { childrenOf, COMPARISONS, type ComparisonOperator, type Node, PARTIAL, spanOf, TESTED, type Variable } from './tree'

/** Sums and filters one after the other make a tree of this height, which is walked by recursion too. */
const HIGHEST = 1000

export type Parsed = { tree: Node } | { problem: Problem }

/**
 * Parses an expression.
 * @param names what the expression may refer to; names with spaces are found by them
 */
export function parseExpression(text: string, names: Iterable<string> | Names): Parsed {
  return parsed(text, names, (parser) => parser.whole(parser.expression()))
}

/**
 * Parses unary tests, the cells of a decision table (DMN 1.5 clause 7.3.2): `-`, `< 5, [7..9]`, `not("oak")`.
 * @param names with `?` among them, where they were made ready before
 * @returns a tree in which the value under test is named `?`
 */
export function parseUnaryTests(text: string, names: Iterable<string> | Names): Parsed {
  return parsed(text, 'match' in names ? names : [...names, TESTED], (parser) => parser.unaryTests())
}

function parsed(text: string, names: Iterable<string> | Names, parse: (parser: Parser) => Node): Parsed {
  try {
    const tokens = tokensOf(text)
    const tree = parse(new Parser(tokens, namesOf(names)))
    // A tree has no more levels than its text has tokens.
    return tokens.length > HIGHEST && isHigherThan(tree, HIGHEST) ? { problem: problem('too-deep', { from: 0, to: text.length }) } : { tree }
  } catch (error) {
    if (error instanceof ExpressionError) return { problem: error.problem }
    throw error
  }
}

class Parser extends Operands {
  whole(node: Node): Node {
    if (this.next.kind !== 'end') this.fail('unexpected', ['an operator', 'the end'])
    return node
  }

  unaryTests(): Node {
    const tested: Node = { kind: 'name', name: TESTED, span: { from: 0, to: 0 } }
    if (this.next.text === '-' && this.tokens[this.at + 1]!.kind === 'end') {
      return { kind: 'boolean', value: true, span: spanOf(this.take()) }
    }
    const start = this.next
    if (this.isWord('not') && this.tokens[this.at + 1]!.text === '(') {
      this.take()
      this.take()
      const tests = this.tests()
      this.expect(')')
      const span = this.since(start)
      return this.whole({ kind: 'call', name: 'not', args: [{ kind: 'in', of: tested, tests, span }], names: null, span })
    }
    const tests = this.tests()
    return this.whole({ kind: 'in', of: tested, tests, span: this.since(start) })
  }

  /** [1, 2] */
  expression(): Node {
    const wasRangeEnd = this.isRangeEnd
    this.isRangeEnd = false
    const node = this.deeper(() => (this.isWord('if') ? this.conditional() : this.isWord('for') ? this.loop() : this.disjunction()))
    this.isRangeEnd = wasRangeEnd
    return node
  }

  /** [45] */
  private conditional(): Node {
    const start = this.take()
    const condition = this.expression()
    this.expectWord('then')
    const then = this.expression()
    this.expectWord('else')
    const otherwise = this.expression()
    return { kind: 'if', condition, then, otherwise, span: this.since(start) }
  }

  /** [44] */
  private loop(): Node {
    const start = this.take()
    const variables = this.variables()
    this.expectWord('return')
    const result = this.within([...variables, { name: PARTIAL }], () => this.expression())
    return { kind: 'for', variables, result, span: this.since(start) }
  }

  /** [46] */
  protected quantified(): Node {
    const start = this.take()
    const variables = this.variables()
    this.expectWord('satisfies')
    const satisfies = this.within(variables, () => this.expression())
    return { kind: 'quantified', quantifier: start.text as 'some' | 'every', variables, satisfies, span: this.since(start) }
  }

  private variables(): Variable[] {
    const variables: Variable[] = []
    do {
      const name = this.newName()
      this.expectWord('in')
      const over = this.within(variables, () => this.iterated())
      variables.push({ name, over })
    } while (this.skip(','))
    return variables
  }

  /** A list, or a range of whole numbers without brackets, as in `for i in 1..3`. */
  private iterated(): Node {
    const low = this.expression()
    if (!this.skip('..')) return low
    const high = this.expression()
    return { kind: 'range', low, high, lowIncluded: true, highIncluded: true, span: { from: low.span.from, to: high.span.to } }
  }

  /** [49] */
  private disjunction(): Node {
    return this.chain('or', () => this.chain('and', () => this.comparison()))
  }

  private chain(word: 'or' | 'and', part: () => Node): Node {
    const first = part()
    if (!this.isWord(word)) return first
    const of = [first]
    while (this.isWord(word)) {
      this.take()
      of.push(part())
    }
    return { kind: word, of, span: { from: first.span.from, to: of.at(-1)!.span.to } }
  }

  /** [51] */
  private comparison(): Node {
    const start = this.next
    if (this.isWord('some') || this.isWord('every')) return this.quantified()
    let left = this.sum()
    for (;;) {
      if ((COMPARISONS as readonly string[]).includes(this.next.text) && this.next.kind === 'symbol') {
        const operator = this.take().text as ComparisonOperator
        left = { kind: 'comparison', operator, left, right: this.sum(), span: this.since(start) }
      } else if (this.isWord('between')) {
        this.take()
        const low = this.sum()
        this.expectWord('and')
        left = { kind: 'between', of: left, low, high: this.sum(), span: this.since(start) }
      } else if (this.isWord('in')) {
        this.take()
        left = { kind: 'in', of: left, tests: this.inTests(), span: this.since(start) }
      } else return left
    }
  }

  /** What follows `in`: one test, or several in brackets [51 c]. */
  private inTests(): Node[] {
    const start = this.next
    if (!this.skip('(')) return [this.openRange() ?? this.sum()]
    const first = this.openRange() ?? this.rangeOr(start, false, (inner) => inner)
    // A range that begins with a bracket of its own has taken its closing one.
    if (first.kind === 'range' && this.tokens[this.at - 1]!.to === first.span.to && first.span.from === start.from) return [first]
    const tests = [first]
    while (this.skip(',')) tests.push(this.test())
    this.expect(')')
    return tests
  }

  private tests(): Node[] {
    const tests = [this.test()]
    while (this.skip(',')) tests.push(this.test())
    return tests
  }

  /** [7] */
  protected test(): Node {
    return this.openRange() ?? this.expression()
  }

  /** [4 a] */
  protected sum(): Node {
    return this.operation(['+', '-'], () => this.operation(['*', '/'], () => this.operation(['**'], () => this.negation())))
  }

  private operation(operators: ArithmeticOperator[], part: () => Node): Node {
    const start = this.next
    let left = part()
    while (this.next.kind === 'symbol' && (operators as string[]).includes(this.next.text)) {
      const operator = this.take().text as ArithmeticOperator
      left = { kind: 'arithmetic', operator, left, right: part(), span: this.since(start) }
    }
    return left
  }

  /** [22]; it binds closer than `**`. */
  private negation(): Node {
    const start = this.next
    if (start.kind !== 'symbol' || start.text !== '-') return this.instance()
    this.take()
    const of = this.deeper(() => this.negation())
    const span = this.since(start)
    // A negative number is one value, so that it is printed and read as one.
    return of.kind === 'number' && !of.number.startsWith('-') ? { ...of, number: `-${of.number}`, span } : { kind: 'negate', of, span }
  }

  /** [51 d] */
  private instance(): Node {
    const start = this.next
    const of = this.postfix()
    if (!this.isWord('instance')) return of
    this.take()
    this.expectWord('of')
    return { kind: 'instance of', of, type: this.typeName(), span: this.since(start) }
  }

  private postfix(): Node {
    const start = this.next
    let of = this.primary()
    for (;;) {
      if (this.skip('.')) {
        const words = this.words(false)
        if (words.length === 0) this.fail('unexpected', ['the name of a property'])
        of = { kind: 'path', of, name: words.join(' '), span: this.since(start) }
      } else if (!this.isRangeEnd && this.skip('[')) {
        const by = this.within([{ name: 'item' }], () => this.expression())
        this.expect(']')
        of = { kind: 'filter', of, by, span: this.since(start) }
      } else return of
    }
  }
}

function isHigherThan(tree: Node, most: number): boolean {
  let level = [tree]
  for (let height = 0; level.length > 0; height++) {
    if (height > most) return true
    level = level.flatMap(childrenOf)
  }
  return false
}
