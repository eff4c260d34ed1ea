/** What each built-in function does, in a line, for whoever writes an expression. */
import { BUILT_IN } from './built-in'
import type { Variant } from './define'

export interface FunctionHelp {
  name: string
  /** Ways of calling it, as `decimal(n, scale)`. */
  calls: string[]
  /** Empty where the name says it. */
  line: string
}

const LINES: Partial<Record<string, string>> = {
  // Numbers
  decimal: 'rounds to so many places, halves to the even digit',
  floor: 'the whole number below',
  ceiling: 'the whole number above',
  'round up': 'rounds away from zero to so many places',
  'round down': 'cuts off behind so many places',
  'round half up': 'rounds to so many places, halves away from zero',
  'round half down': 'rounds to so many places, halves towards zero',
  abs: 'without its sign',
  modulo: 'what is left of a division',
  sqrt: 'the square root',
  log: 'the natural logarithm',
  exp: 'e to the power of a number',
  odd: 'whether a whole number is odd',
  even: 'whether a whole number is even',
  // Lists
  count: 'how many values there are',
  min: 'the lowest',
  max: 'the highest',
  sum: 'all added up',
  mean: 'the sum through the number of values',
  median: 'the value in the middle',
  product: 'all multiplied',
  stddev: 'the standard deviation of a sample',
  mode: 'the values that are there most often',
  all: 'whether all are true',
  any: 'whether one is true at least',
  'list contains': 'whether a value is in the list',
  sublist: 'a part of the list, from a place on',
  append: 'the list with more values at its end',
  concatenate: 'lists, one behind the other',
  'insert before': 'the list with a value put in',
  remove: 'the list without the value at a place',
  reverse: 'from the last to the first',
  'index of': 'the places at which a value stands',
  union: 'the values of all lists, each once',
  'distinct values': 'each value once',
  flatten: 'lists within lists as one',
  sort: 'in order',
  // Texts
  substring: 'a part of a text, from a place on',
  'string length': 'how many letters',
  'upper case': 'in capitals',
  'lower case': 'in small letters',
  'substring before': 'what stands before another text',
  'substring after': 'what stands behind another text',
  contains: 'whether a text holds another',
  'starts with': 'whether a text begins with another',
  'ends with': 'whether a text ends with another',
  matches: 'whether a pattern is found in a text',
  replace: 'a text with what a pattern finds replaced',
  split: 'the parts of a text between separators',
  'string join': 'texts as one, with a separator between',
  string: 'any value as a text',
  number: 'a text as a number',
  // Dates
  today: 'the as-of date',
  now: 'the beginning of the as-of date',
  date: 'a text, or year, month and day, as a date',
  'date and time': 'a text, or a date and a time, as both',
  time: 'a text, or hours, minutes and seconds, as a time',
  duration: 'a text such as P7D as a length of time',
  'years and months duration': 'completed years and months between two dates',
  'day of year': '1 to 366',
  'day of week': 'Monday to Sunday',
  'month of year': 'January to December',
  'week of year': 'by ISO 8601',
  is: 'whether two values are the same, of the same kind',
}

export const FUNCTION_HELP: readonly FunctionHelp[] = [...BUILT_IN.values()].map(({ name, variants }) => ({
  name,
  calls: variants.map((variant) => callText(name, variant)),
  line: LINES[name] ?? '',
}))

function callText(name: string, { parameters }: Variant): string {
  return `${name}(${parameters.map((one) => `${one.name}${one.isOptional ? '?' : one.many === 'rest' ? ' …' : ''}`).join(', ')})`
}
