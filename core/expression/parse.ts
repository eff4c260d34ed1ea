/** FEEL text to tree, by recursive descent (DMN 1.5 clause 10.3.1.2; the rules of its grammar are named in brackets). */
import type { ArithmeticOperator } from '../value/arithmetic'
import { Decimal } from '../value/number'
import { numberFromText } from '../value/value-text'
import { Cursor } from './cursor'
import { FUNCTION_NAMES } from './functions/built-in'
import { KEYWORDS, namesOf } from './names'
import { ExpressionError, problem, type Problem } from './problem'
import { type Token, tokensOf } from './tokens'
import { childrenOf, COMPARISONS, type ComparisonOperator, type Node, type Span, TESTED, type Variable } from './tree'
import { FEEL_TYPE_NAMES } from './type'

/** Sums and filters one after the other make a tree of this height, which is walked by recursion too. */
const HIGHEST = 1000

const TYPES = namesOf(FEEL_TYPE_NAMES)
const FUNCTIONS = namesOf(FUNCTION_NAMES)

export type Parsed = { tree: Node } | { problem: Problem }

/**
 * Parses an expression.
 * @param names what the expression may refer to; names with spaces are found by them
 */
export function parseExpression(text: string, names: Iterable<string>): Parsed {
  return parsed(text, names, (parser) => parser.whole(parser.expression()))
}

/**
 * Parses unary tests, the cells of a decision table (DMN 1.5 clause 7.3.2): `-`, `< 5, [7..9]`, `not("oak")`.
 * @returns a tree in which the value under test is named `?`
 */
export function parseUnaryTests(text: string, names: Iterable<string>): Parsed {
  return parsed(text, [...names, TESTED], (parser) => parser.unaryTests())
}

function parsed(text: string, names: Iterable<string>, parse: (parser: Parser) => Node): Parsed {
  try {
    const tree = parse(new Parser(tokensOf(text), namesOf(names)))
    return isHigherThan(tree, HIGHEST) ? { problem: problem('too-deep', { from: 0, to: text.length }) } : { tree }
  } catch (error) {
    if (error instanceof ExpressionError) return { problem: error.problem }
    throw error
  }
}

class Parser extends Cursor {
  /** Inside an open-ended bracket `[1..5[` the last bracket closes the range instead of opening a filter. */
  private isRangeEnd = false

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
    const result = this.within(variables, () => this.expression())
    return { kind: 'for', variables, result, span: this.since(start) }
  }

  /** [46] */
  private quantified(): Node {
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

  /** A name that the expression gives itself. */
  private newName(): string {
    const words: string[] = []
    while ((this.next.kind === 'word' && !KEYWORDS.has(this.next.text)) || (words.length > 0 && this.next.kind === 'number')) words.push(this.take().text)
    if (words.length === 0) this.fail('unexpected', ['a name'])
    return words.join(' ')
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
  private test(): Node {
    return this.openRange() ?? this.expression()
  }

  /** `< 5` */
  private openRange(): Node | null {
    const operator = this.next
    if (operator.kind !== 'symbol' || !(COMPARISONS as readonly string[]).includes(operator.text)) return null
    this.take()
    const end = this.sum()
    const span = this.since(operator)
    switch (operator.text as ComparisonOperator) {
      case '<': case '<=':
        return { kind: 'range', low: null, high: end, lowIncluded: false, highIncluded: operator.text === '<=', span }
      case '>': case '>=':
        return { kind: 'range', low: end, high: null, lowIncluded: operator.text === '>=', highIncluded: false, span }
      default:
        return { kind: 'comparison', operator: operator.text as ComparisonOperator, left: { kind: 'name', name: TESTED, span: spanOf(operator) }, right: end, span }
    }
  }

  /** [4 a] */
  private sum(): Node {
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
    const type = TYPES.match(this.tokens, this.at)
    if (!type) throw new ExpressionError(problem('unknown-type', this.next, [this.next.text], FEEL_TYPE_NAMES))
    this.at += type.length
    return { kind: 'instance of', of, type: type.name, span: this.since(start) }
  }

  private postfix(): Node {
    const start = this.next
    let of = this.primary()
    for (;;) {
      if (this.skip('.')) {
        const words: string[] = []
        while (this.next.kind === 'word' && !KEYWORDS.has(this.next.text)) words.push(this.take().text)
        if (words.length === 0) this.fail('unexpected', ['the name of a property'])
        of = { kind: 'path', of, name: words.join(' '), span: this.since(start) }
      } else if (!this.isRangeEnd && this.skip('[')) {
        const by = this.within([{ name: 'item' }], () => this.expression())
        this.expect(']')
        of = { kind: 'filter', of, by, span: this.since(start) }
      } else return of
    }
  }

  private primary(): Node {
    switch (this.next.kind) {
      case 'number':
        return this.number()
      case 'text':
        return this.text()
      case 'word':
        return this.word()
      case 'symbol':
        return this.bracketed()
      case 'end':
        return this.fail('unexpected-end', ['a value'])
    }
  }

  private text(): Node {
    const token = this.take()
    return { kind: 'text', text: token.text, span: spanOf(token) }
  }

  private number(): Node {
    const token = this.take()
    const number = numberFromText(token.text)
    if (!number) throw new ExpressionError(problem('bad-number', token, [token.text]))
    return { kind: 'number', number: number.isZero() ? '0' : number.abs().gt(1e40) || number.abs().lt(1e-40) ? String(number) : new Decimal(number).toFixed(), span: spanOf(token) }
  }

  private word(): Node {
    const token = this.next
    const known = this.knownName()
    const called = FUNCTIONS.match(this.tokens, this.at)
    if (called && this.tokens[this.at + called.length]!.text === '(' && (!known || known.length <= called.length)) return this.call(called)
    if (known) {
      const last = this.tokens[this.at + known.length - 1]!
      const after = this.tokens[this.at + known.length]!
      // Two words in a row are never right, so the whole run is one name that nobody knows.
      if (after.kind === 'word' && !KEYWORDS.has(after.text)) return this.unknownName()
      this.at += known.length
      return { kind: 'name', name: known.name, span: { from: token.from, to: last.to } }
    }
    switch (token.text) {
      case 'true': case 'false':
        return { kind: 'boolean', value: token.text === 'true', span: spanOf(this.take()) }
      case 'null':
        return { kind: 'null', span: spanOf(this.take()) }
      case 'function':
        return this.functionLiteral()
      case 'if': case 'for':
        return this.expression()
      case 'some': case 'every':
        return this.quantified()
    }
    if (KEYWORDS.has(token.text)) this.fail('unexpected', ['a value'])
    return this.unknownName()
  }

  /** A run of words that is no name; the types' check says so, with the nearest one. */
  private unknownName(): Node {
    const start = this.next
    const words: string[] = []
    while ((this.next.kind === 'word' && !KEYWORDS.has(this.next.text)) || (words.length > 0 && this.next.kind === 'number')) words.push(this.take().text)
    const span = this.since(start)
    if (this.next.text === '(' && this.next.kind === 'symbol') {
      throw new ExpressionError(problem('unknown-function', span, [words.join(' ')]))
    }
    return { kind: 'name', name: words.join(' '), span }
  }

  /** [40] with positions or names. */
  private call({ name, length }: { name: string; length: number }): Node {
    const start = this.next
    this.at += length
    this.expect('(')
    const args: Node[] = []
    const names: string[] = []
    if (this.next.text !== ')' || this.next.kind !== 'symbol') {
      do {
        const parameter = this.parameterName()
        if (parameter !== null) names.push(parameter)
        if (names.length > 0 && parameter === null) this.fail('unexpected', ['the name of a parameter'])
        args.push(this.test())
      } while (this.skip(','))
    }
    this.expect(')')
    if (names.length > 0 && names.length < args.length) throw new ExpressionError(problem('argument-name', this.since(start), [name]))
    return { kind: 'call', name, args, names: names.length > 0 ? names : null, span: this.since(start) }
  }

  private parameterName(): string | null {
    let end = this.at
    while (this.tokens[end]!.kind === 'word') end++
    if (end === this.at || this.tokens[end]!.text !== ':') return null
    const words = this.tokens.slice(this.at, end).map(({ text }) => text)
    this.at = end + 1
    return words.join(' ')
  }

  /** [55] */
  private functionLiteral(): Node {
    const start = this.take()
    this.expect('(')
    const parameters: string[] = []
    if (this.next.text !== ')') {
      do parameters.push(this.newName())
      while (this.skip(','))
    }
    this.expect(')')
    const body = this.within(parameters.map((name) => ({ name })), () => this.expression())
    return { kind: 'function', parameters, body, span: this.since(start) }
  }

  private bracketed(): Node {
    const start = this.next
    switch (start.text) {
      case '@': {
        this.take()
        if (this.next.kind !== 'text') this.fail('unexpected', ['a date, time or duration in quotes'])
        const { text } = this.take()
        return { kind: 'temporal', text, span: this.since(start) }
      }
      case '(': {
        this.take()
        const range = this.openRange()
        if (!range) return this.rangeOr(start, false, (inner) => this.upTo(')', inner))
        this.expect(')')
        return { ...range, span: this.since(start) }
      }
      case ']':
        this.take()
        return this.rangeOr(start, false, () => this.fail('unexpected', ['..']))
      case '[': {
        this.take()
        if (this.skip(']')) return { kind: 'list', items: [], span: this.since(start) }
        return this.rangeOr(start, true, (first) => {
          const items = [first]
          while (this.skip(',')) items.push(this.expression())
          this.expect(']')
          return { kind: 'list', items, span: this.since(start) }
        })
      }
    }
    return this.fail('unexpected', ['a value'])
  }

  private upTo(symbol: string, node: Node): Node {
    this.expect(symbol)
    return node
  }

  /** After an opening bracket: a range [8] up to its closing one, or else what `otherwise` makes of the first expression. */
  private rangeOr(start: Token, lowIncluded: boolean, otherwise: (first: Node) => Node): Node {
    const low = this.expression()
    if (!this.skip('..')) return otherwise(low)
    this.isRangeEnd = true
    const high = this.deeper(() => this.sum())
    this.isRangeEnd = false
    const bracket = this.next
    if (bracket.kind !== 'symbol' || ![']', ')', '['].includes(bracket.text)) this.fail('unexpected', [']', ')'])
    this.take()
    return { kind: 'range', low, high, lowIncluded, highIncluded: bracket.text === ']', span: this.since(start) }
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

function spanOf({ from, to }: Span): Span {
  return { from, to }
}
