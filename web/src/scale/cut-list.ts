/** Cuts as they are typed in a list. */
import { compareDecimals, type DecimalText } from '@dime-gate/core/value/number'
import { DECIMAL_MARK } from '../shared/format'
import { type AxisWords, axisWords } from './axis-words'

/**
 * Parted by commas, semicolons or spaces, in any order; where the reader writes a comma before decimals, by semicolons or
 * spaces. Dates hold spaces and commas themselves: they are parted by semicolons, or stand in lines.
 */
export function readCutList(text: string, words: AxisWords = axisWords('number')): { cuts: DecimalText[] } | { wrong: string } {
  const between = words.kind === 'date' ? /\s*[;\n]\s*/ : DECIMAL_MARK === 'comma' ? /[\s;]+/ : /[\s;,]+/
  const cuts: DecimalText[] = []
  for (const part of text.split(between).map((one) => one.trim()).filter((one) => one !== '')) {
    const value = words.read(part)
    if (value === null) return { wrong: `“${part}” ${words.wrong}.` }
    if (!cuts.some((cut) => compareDecimals(cut, value) === 0)) cuts.push(value)
  }
  return { cuts: cuts.sort(compareDecimals) }
}
