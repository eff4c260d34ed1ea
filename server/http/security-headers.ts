/** What browsers are told of every answer (OWASP ASVS 5, chapter 3): nothing but our own is loaded, and nobody else's page shows ours. */
import { randomBytes } from 'node:crypto'
import type { IncomingMessage, ServerResponse } from 'node:http'
import helmet from 'helmet'
import type { Middleware } from 'koa'

const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"], scriptSrc: ["'self'"], connectSrc: ["'self'"], imgSrc: ["'self'", 'data:'], fontSrc: ["'self'"], workerSrc: ["'self'"],
      styleSrc: ["'self'", (_: IncomingMessage, response: ServerResponse) => `'nonce-${nonces.get(response)!}'`],
      baseUri: ["'none'"], formAction: ["'none'"], frameAncestors: ["'none'"],
    },
  },
  crossOriginEmbedderPolicy: true,
  frameguard: { action: 'deny' },
  // It is spoken to on loopback alone, without a certificate.
  strictTransportSecurity: false,
})

/** By answer the word by which its page's own styles are let in. */
const nonces = new WeakMap<ServerResponse, string>()

export const securityHeaders: Middleware = async (context, next) => {
  context.state.nonce = randomBytes(16).toString('base64')
  nonces.set(context.res, context.state.nonce as string)
  await new Promise<void>((resolve, reject) => headers(context.req, context.res, (error?: unknown) => (error ? reject(error as Error) : resolve())))
  context.set('Permissions-Policy', 'camera=(), geolocation=(), microphone=(), payment=(), usb=()')
  if (context.path.startsWith('/api/')) context.set('Cache-Control', 'no-store')
  await next()
}
