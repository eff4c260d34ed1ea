/** Figures as sheets store them, in the texts that people would write. */
import { Decimal } from '@dime-gate/core/value/number'

/** Digits that a double holds, whatever they are; sheets show no more, and what stands behind them is its rounding. */
const DIGITS = 15
const DAY = 86_400_000

/** @param stored a double as text, with up to 17 digits. @returns `stored` itself where it is no number */
export function figureText(stored: string): string {
  const text = stored.trim()
  if (/^-?\d{1,15}$/.test(text)) return text.replace(/^-0+$/, '0')
  const value = Number(text)
  if (text === '' || !Number.isFinite(value)) return stored
  return new Decimal(value.toPrecision(DIGITS)).toFixed()
}

/** 0.72 is `72%`. */
export function percentText(stored: string): string {
  const figure = figureText(stored)
  return /^-?\d+(\.\d+)?$/.test(figure) ? `${new Decimal(figure).times(100).toFixed()}%` : stored
}

/**
 * A day counted as ISO/IEC 29500-1, 18.17.4.1 says, as ISO 8601 text, with its time where it has one.
 * @param from1904 whether days are counted from 1 January 1904; else 1 is 1 January 1900, and 60 is 29 February 1900, which never was
 */
export function dateText(stored: string, from1904: boolean): string {
  const serial = Number(stored)
  if (stored.trim() === '' || !Number.isFinite(serial) || serial < 0 || serial > 2_958_465.99999) return figureText(stored)
  // Seconds, for a day is not a round number of them in binary.
  const seconds = Math.round(serial * 86_400)
  const [days, rest] = [Math.floor(seconds / 86_400), seconds % 86_400]
  const time = new Date(rest * 1000).toISOString().slice(11, 19)
  if (days === 0 && !from1904) return time
  if (days === 60 && !from1904) return '1900-02-29'
  const epoch = from1904 ? Date.UTC(1904, 0, 1) : days < 60 ? Date.UTC(1899, 11, 31) : Date.UTC(1899, 11, 30)
  const day = new Date(epoch + days * DAY).toISOString().slice(0, 10)
  return rest === 0 ? day : `${day}T${time}`
}

export type FigureLook = 'figure' | 'percent' | 'date' | 'text'

/** What a number format makes of a number (ISO/IEC 29500-1, 18.8.30 and 18.8.31). @param code of its own, or null for one that is built in */
export function lookOfFormat(id: number, code: string | null): FigureLook {
  if (code === null) {
    if (id === 9 || id === 10) return 'percent'
    if (id === 49) return 'text'
    return (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 45 && id <= 47) || (id >= 50 && id <= 58) ? 'date' : 'figure'
  }
  // Texts, colours, conditions, padding and fill say nothing of what the number is.
  const signs = code.replace(/"[^"]*"|\\.|_.|\*./g, '').replace(/\[(?!h+\]|m+\]|s+\])[^\]]*\]/gi, '')
  if (signs.trim() === '@') return 'text'
  if (signs.includes('%')) return 'percent'
  return /[dmyhs]/i.test(signs.replace(/general/gi, '')) ? 'date' : 'figure'
}
