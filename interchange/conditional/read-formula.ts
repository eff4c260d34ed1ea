/** OpenFormula (ISO/IEC 26300-4) to terms: IF and its kin, over named cells. */
import type { ArithmeticOperator } from '@dime-gate/core/value/arithmetic'
import type { ComparisonOperator, Node } from '@dime-gate/core/expression/tree'
import { ConditionalCursor, conditionalTokens, type TokenRule } from './cursor'
import { comparisonTerm, formulaFunction } from './formula-functions'
import { booleanValue, negatedValue, nullValue, numberValue, textValue, value } from './nodes'
import type { Term } from './term'
import { ToFeel } from './to-feel'

const TOKENS: TokenRule[] = [
  { kind: 'skip', pattern: /\s+/y },
  { kind: 'number', pattern: /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y },
  { kind: 'text', pattern: /"(?:[^"]|"")*"/y, value: (written) => written.slice(1, -1).replaceAll('""', '"') },
  { kind: 'name', pattern: /\$\$'(?:[^']|'')+'/y, value: (written) => written.slice(3, -1).replaceAll("''", "'") },
  // A cell by its place, clause 5.8: `[.B2]` goes by the name B2.
  { kind: 'name', pattern: /\[(?:\$?(?:'(?:[^']|'')*'|[^\]'.]*))?\.\$?[A-Za-z]+\$?\d+\]/y, value: (written) => written.replace(/^.*\.(?=\$?[A-Za-z]+\$?\d+\]$)/, '').replace(/[\]$]/g, '') },
  { kind: 'word', pattern: /\$?[\p{L}_][\p{L}\p{N}_.$]*/uy, value: (written) => written.replaceAll('$', '') },
  { kind: 'symbol', pattern: /<>|<=|>=|[-+*/^&%=<>();,:~!{}|#]/y },
]
const COMPARISONS: Record<string, ComparisonOperator> = { '=': '=', '<>': '!=', '<': '<', '<=': '<=', '>': '>', '>=': '>=' }

/** @throws ConditionalError at the first thing that is not understood */
export function readFormula(text: string): Term {
  const intro = /^\s*(?:of:)?={1,2}/.exec(text)?.[0] ?? ''
  // Blanks in its place, so that positions stay those of the text.
  return new FormulaReader(conditionalTokens(' '.repeat(intro.length) + text.slice(intro.length), TOKENS)).whole()
}

class FormulaReader extends ConditionalCursor {
  private readonly feel = new ToFeel()

  whole(): Term {
    const term = this.expression()
    if (this.next.kind !== 'end') this.fail('the end')
    return term
  }

  private expression(): Term {
    return this.deeper(() => {
      const start = this.next
      let left = this.operation({ '&': '+' }, () => this.operation({ '+': '+', '-': '-' }, () => this.operation({ '*': '*', '/': '/' }, () => this.operation({ '^': '**' }, () => this.sign()))))
      while (this.next.kind === 'symbol' && COMPARISONS[this.next.text]) {
        const operator = COMPARISONS[this.take().text]!
        const right = this.operation({ '&': '+' }, () => this.operation({ '+': '+', '-': '-' }, () => this.operation({ '*': '*', '/': '/' }, () => this.operation({ '^': '**' }, () => this.sign()))))
        left = comparisonTerm(operator, left, right, this.since(start))
      }
      return left
    })
  }

  private operation(operators: Record<string, ArithmeticOperator>, part: () => Term): Term {
    const start = this.next
    let left = part()
    while (this.next.kind === 'symbol' && operators[this.next.text]) {
      const operator = operators[this.take().text]!
      const [a, b] = [this.feel.value(left), this.feel.value(part())]
      left = value({ kind: 'arithmetic', operator, left: a, right: b, span: this.since(start) })
    }
    return left
  }

  private sign(): Term {
    const start = this.next
    if (this.skipSymbol('+')) return this.deeper(() => this.sign())
    if (!this.skipSymbol('-')) return this.percent()
    const of = this.deeper(() => this.feel.value(this.sign()))
    return negatedValue(of, this.since(start))
  }

  private percent(): Term {
    const start = this.next
    let term = this.primary()
    while (this.skipSymbol('%')) {
      const of = this.feel.value(term)
      const span = this.since(start)
      const hundredth: Node = { kind: 'number', number: '0.01', span }
      term = value({ kind: 'arithmetic', operator: '*', left: of, right: hundredth, span })
    }
    return term
  }

  private primary(): Term {
    const token = this.next
    switch (token.kind) {
      case 'number':
        return numberValue(this.take().text, token)
      case 'text':
        this.take()
        // A formula has no other way to give nothing.
        return token.text === '' ? nullValue(token) : textValue(token.text, token)
      case 'name':
        this.take()
        return value({ kind: 'name', name: token.text, span: token })
      case 'word':
        return this.word()
      default: {
        if (!this.skipSymbol('(')) return this.fail('a value')
        const term = this.expression()
        this.expectSymbol(')')
        return term
      }
    }
  }

  private word(): Term {
    const token = this.take()
    const name = token.text.toUpperCase()
    if (!this.skipSymbol('(')) {
      if (name === 'TRUE' || name === 'FALSE') return booleanValue(name === 'TRUE', token)
      return value({ kind: 'name', name: token.text, span: token })
    }
    const args: Term[] = []
    if (!this.skipSymbol(')')) {
      do args.push(this.isSymbol(';') || this.isSymbol(',') || this.isSymbol(')') ? nullValue(this.next) : this.expression())
      while (this.skipSymbol(';') || this.skipSymbol(','))
      this.expectSymbol(')')
    }
    return formulaFunction(name, args, this.since(token), this.feel)
  }
}
