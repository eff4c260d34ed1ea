/**
 * Texts of gates that were read before: with every step of a drag, and every key that is typed, nearly all of a gate is what
 * it was. Reading hangs on the text and the names around it alone, so what was found the first time is found again.
 */
import type { Problem } from '../expression/problem'
import type { Node } from '../expression/tree'
import type { Type } from '../expression/type'
import { type Condition, conditionOf } from './condition'

export interface ReadText {
  /** Null where the text is no expression. */
  tree: Node | null
  type: Type
  problems: readonly Problem[]
}

const MOST_TEXTS = 20_000

const texts = new Map<string, ReadText>()
const conditions = new WeakMap<Node, Condition>()

/** @param key the text, and all that its meaning hangs on */
export function readOnce(key: string, read: () => ReadText): ReadText {
  const known = texts.get(key)
  if (known) return known
  if (texts.size >= MOST_TEXTS) texts.clear()
  const found = read()
  texts.set(key, found)
  return found
}

export function conditionOnce(tree: Node): Condition {
  const known = conditions.get(tree) ?? conditionOf(tree)
  conditions.set(tree, known)
  return known
}
