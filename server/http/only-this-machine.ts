/**
 * Refuses what other sites' pages send here. The server listens on loopback without a log-in, so a page
 * elsewhere must not be able to reach it, through a name that resolves to loopback or a form of its own.
 */
import type { Middleware } from 'koa'
import { Refusal } from './refusal'

const LOOPBACK = /^(127(\.\d{1,3}){3}|localhost|\[::1\])(:\d+)?$/

export const onlyThisMachine: Middleware = async (context, next) => {
  const site = context.get('Sec-Fetch-Site')
  const strange = !LOOPBACK.test(context.host) || (context.method !== 'GET' && site !== '' && site !== 'same-origin' && site !== 'none')
  if (strange) throw new Refusal(403, { code: 'other-site', message: 'Dime Gate answers only pages of its own, opened on this machine.' })
  await next()
}
