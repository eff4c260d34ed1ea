/**
 * Refuses what other sites' pages send here. The server listens on loopback without a log-in, so a page
 * elsewhere must not be able to reach it, through a name that resolves to loopback or a form of its own.
 */
import type { IncomingMessage } from 'node:http'
import type { Middleware } from 'koa'
import { refusals } from './refusal'

const LOOPBACK = /^(127(\.\d{1,3}){3}|localhost|\[::1\])(:\d+)?$/

/** Browsers say from whose page a request comes: by `Sec-Fetch-Site`, and by `Origin` where they are too old for that. */
function isFromElsewhere({ headers }: IncomingMessage): boolean {
  const [site, origin] = [headers['sec-fetch-site'] ?? '', headers.origin ?? '']
  if (site !== '' && site !== 'same-origin' && site !== 'none') return true
  return origin !== '' && origin !== `http://${headers.host ?? ''}`
}

/** Whether nobody but a page of ours, or a program on this machine, can have sent it. */
export function isOfThisMachine(request: IncomingMessage): boolean {
  return LOOPBACK.test(request.headers.host ?? '') && !isFromElsewhere(request)
}

export const onlyThisMachine: Middleware = async (context, next) => {
  const isChange = context.method !== 'GET' && context.method !== 'HEAD'
  const strange = !LOOPBACK.test(context.req.headers.host ?? '') || (isChange && isFromElsewhere(context.req))
  if (strange) throw refusals.otherSite()
  await next()
}
