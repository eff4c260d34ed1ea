/**
 * Refuses what other sites' pages send here. The server listens on loopback without a log-in, so a page
 * elsewhere must not be able to reach it, through a name that resolves to loopback or a form of its own.
 */
import type { Middleware } from 'koa'
import { refusals } from './refusal'

const LOOPBACK = /^(127(\.\d{1,3}){3}|localhost|\[::1\])(:\d+)?$/

export const onlyThisMachine: Middleware = async (context, next) => {
  const site = context.get('Sec-Fetch-Site')
  const strange = !LOOPBACK.test(context.host) || (context.method !== 'GET' && site !== '' && site !== 'same-origin' && site !== 'none')
  if (strange) throw refusals.otherSite()
  await next()
}
