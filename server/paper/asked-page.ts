/** Which page of ours a request wants on paper, as whoever asks reads it: their numbers, their time of day. */
import type { Context } from 'koa'
import { type PageAsked, type Paper, PAPERS } from './printer'

/** @param path of the page, with its query */
export function pageAsked(context: Context, path: string): PageAsked {
  return { address: `http://127.0.0.1:${context.req.socket.localPort}${path}`, locale: localeOf(context.get('Accept-Language')), zone: zoneOf(String(context.query.zone ?? '')) }
}

export function paperOf(context: Context): Paper {
  return PAPERS.find((one) => one === context.query.paper) ?? 'a4'
}

/** The language that is wanted most (RFC 9110 clause 12.5.4: the first is, where no weight is given). */
function localeOf(wanted: string): string {
  const [first = ''] = wanted.split(/[,;]/)
  return isSupported(() => Intl.getCanonicalLocales(first.trim())) && first.trim() !== '' ? first.trim() : 'en'
}

function zoneOf(zone: string): string {
  return zone !== '' && isSupported(() => new Intl.DateTimeFormat('en', { timeZone: zone })) ? zone : ''
}

function isSupported(make: () => unknown): boolean {
  try {
    make()
    return true
  } catch {
    return false
  }
}
