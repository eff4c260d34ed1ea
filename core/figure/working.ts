/** How a figure came about for one record: its expression with the record's values put in. */
import { printExpression } from '../expression/print'
import { substitute } from '../expression/substitute'
import { freeNames, type Node } from '../expression/tree'
import { Decimal, plain } from '../value/number'
import { isList, isNumber, type Value } from '../value/value'
import { textOfValue } from '../value/value-text'

/** Digits behind the point of what is put in: a working is read, not reckoned with. */
const PLACES = 6
const NOWHERE = { from: 0, to: 0 }

/** @param value what the record has for a name */
export function workingText(tree: Node, value: (name: string) => Value): string {
  return printExpression(substitute(tree, new Map(freeNames(tree).map((name) => [name, literal(value(name))]))))
}

function literal(value: Value): Node {
  if (value === null) return { kind: 'null', span: NOWHERE }
  if (isNumber(value)) return numberNode(plain(value.toDecimalPlaces(PLACES)))
  if (typeof value === 'string') return { kind: 'text', span: NOWHERE, text: value }
  if (typeof value === 'boolean') return { kind: 'boolean', span: NOWHERE, value }
  if (isList(value)) return { kind: 'list', span: NOWHERE, items: value.map(literal) }
  return { kind: 'temporal', span: NOWHERE, text: textOfValue(value) }
}

/** A minus is a step of its own. */
function numberNode(text: string): Node {
  if (!text.startsWith('-')) return { kind: 'number', span: NOWHERE, number: text }
  return { kind: 'negate', span: NOWHERE, of: { kind: 'number', span: NOWHERE, number: plain(new Decimal(text).abs()) } }
}
