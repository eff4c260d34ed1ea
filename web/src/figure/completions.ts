/** What an expression could go on with, from what stands before the caret. */
import { FUNCTION_HELP } from '@dime-gate/core/expression/functions/help'

export interface Name {
  name: string
  /** What it is, in short. */
  detail: string
}

export interface Completion {
  label: string
  /** What is put in; the caret comes to stand `back` signs before its end. */
  insert: string
  back: number
  kind: 'name' | 'function' | 'word'
  detail: string
  info: string
}

const WORDS = [
  'and',
  'or',
  'not(',
  'if',
  'then',
  'else',
  'between',
  'in',
  'for',
  'return',
  'some',
  'every',
  'satisfies',
  'null',
  'true',
  'false',
]
/** Longer than this nobody remembers what a name began with. */
const LONGEST = 60

/**
 * Names have spaces, so what is being written may have begun several words ago: the longest beginning that leads anywhere is meant.
 * @param before the text up to the caret
 * @returns from where on it is replaced; null where nothing begins so
 */
export function completionsFor(before: string, names: readonly Name[], isAsked: boolean): { from: number; options: Completion[] } | null {
  const all = [...names.map(nameCompletion), ...FUNCTION_HELP.map(functionCompletion), ...WORDS.map(wordCompletion)]
  if (inText(before)) return null
  for (const from of starts(before)) {
    const begun = before.slice(from).toLowerCase()
    const options = all.filter(({ label }) => label.toLowerCase().startsWith(begun))
    if (options.length > 0 && !(options.length === 1 && options[0]!.label.toLowerCase() === begun)) return { from, options }
  }
  return isAsked && /(^|[\s([,+\-*/<>=])$/.test(before) ? { from: before.length, options: all } : null
}

/** Where what is being written may begin: at words, the earliest first. */
function starts(before: string): number[] {
  const all: number[] = []
  for (let at = Math.max(0, before.length - LONGEST); at < before.length; at++) {
    const isStart = at === 0 || !/[\p{L}\p{N}_.]/u.test(before[at - 1]!)
    if (isStart && /\p{L}/u.test(before[at]!)) all.push(at)
  }
  return all
}

/** Within quotes nothing is proposed. */
function inText(before: string): boolean {
  return (before.replaceAll('\\"', '').match(/"/g)?.length ?? 0) % 2 === 1
}

function nameCompletion({ name, detail }: Name): Completion {
  return { label: name, insert: name, back: 0, kind: 'name', detail, info: '' }
}

function functionCompletion({ name, calls, line }: (typeof FUNCTION_HELP)[number]): Completion {
  const hasNothing = calls.every((call) => call === `${name}()`)
  return {
    label: name,
    insert: `${name}()`,
    back: hasNothing ? 0 : 1,
    kind: 'function',
    detail: calls[0]!.slice(name.length),
    info: [line, ...calls.slice(1)].filter((text) => text !== '').join(' · '),
  }
}

function wordCompletion(word: string): Completion {
  const isCall = word.endsWith('(')
  return {
    label: isCall ? word.slice(0, -1) : word,
    insert: isCall ? `${word})` : word,
    back: isCall ? 1 : 0,
    kind: 'word',
    detail: '',
    info: '',
  }
}
