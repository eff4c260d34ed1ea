/** What is wrong with an expression, in words that say what to do. */
import type { Problem } from './problem'

export function problemWords({ code, found, hint }: Problem): string {
  const [first = '', second = '', third = ''] = found
  const nearest = hint[0] === undefined ? '' : ` Did you mean “${hint[0]}”?`
  switch (code) {
    case 'too-long':
      return `This is ${first} characters long; ${hint[0]} are the most. Split it into named conditions.`
    case 'too-deep':
      return 'This is nested too deeply. Split it into named conditions.'
    case 'unknown-character':
      return `“${first}” has no place in an expression. If it belongs to a name, give the input a name without it.`
    case 'unclosed-text':
      return 'This text has no closing quote.'
    case 'bad-escape':
      return `“${first}” stands for nothing. Write two backslashes for one.`
    case 'bad-number':
      return `“${first}” is too large, or too small, for a number.`
    case 'unexpected':
      return `“${first}” cannot stand here; expected ${hint.join(' or ')}.`
    case 'unexpected-end':
      return `Something is missing at the end: ${hint.join(' or ')}.`
    case 'unknown-name':
      return `Nothing is named “${first}” here.${nearest}`
    case 'unknown-function':
      return `There is no function “${first}”.${nearest}`
    case 'unknown-property':
      return `A ${second} has no “${first}”.${nearest}`
    case 'unknown-type':
      return `There is no type “${first}”. There are: ${hint.join(', ')}.`
    case 'bad-date':
      return `“${first}” is no date, time or duration. Write a day as 2026-03-02, a duration as P7D.`
    case 'bad-pattern':
      return `“${first}” is no pattern that can be searched for.`
    case 'type-clash':
      return third ? `A ${second} and a ${third} do not go together with “${first}”.` : `“${first}” does not go with a ${second}.`
    case 'not-a-condition':
      return `This is a ${first}, not something true or false. Compare it with a value.`
    case 'argument-count':
      return `“${first}” is called as ${hint.join(' or ')}.`
    case 'argument-type':
      return `“${first}” wants a ${hint[0]} for “${second}”, not a ${third}.`
    case 'argument-name':
      return `“${first}” has other parameters: ${hint.join(' or ')}.`
  }
}
