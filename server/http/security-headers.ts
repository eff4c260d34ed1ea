/** What browsers are told of every answer (OWASP ASVS 5, chapter 3): nothing but our own is loaded, and nobody else's page shows ours. */
import { randomBytes } from 'node:crypto'
import type { IncomingMessage, ServerResponse } from 'node:http'
import helmet from 'helmet'
import type { Middleware } from 'koa'

const told = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"], scriptSrc: ["'self'"], connectSrc: ["'self'"], imgSrc: ["'self'", 'data:'], fontSrc: ["'self'"], workerSrc: ["'self'"],
      styleSrc: ["'self'"], baseUri: ["'none'"], formAction: ["'none'"], frameAncestors: ["'none'"],
    },
  },
  crossOriginEmbedderPolicy: true,
  frameguard: { action: 'deny' },
  // It is spoken to on loopback alone, without a certificate.
  strictTransportSecurity: false,
})

/** They are the same for every answer, and there are many in a second: asked for once. */
function headersOnce(): Record<string, string> {
  const headers: Record<string, string> = { 'Permissions-Policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=()' }
  const answer = { setHeader: (name: string, value: string) => (headers[name] = value), removeHeader: () => undefined }
  told({} as IncomingMessage, answer as unknown as ServerResponse, (error?: unknown) => {
    if (error) throw error as Error
  })
  return headers
}
const HEADERS = headersOnce()
const POLICY = 'Content-Security-Policy'

export const securityHeaders: Middleware = async (context, next) => {
  for (const name in HEADERS) context.res.setHeader(name, HEADERS[name]!)
  if (context.path.startsWith('/api/')) context.set('Cache-Control', 'no-store')
  else {
    // The word by which a page's own styles are let in.
    const nonce = randomBytes(16).toString('base64')
    context.state.nonce = nonce
    context.set(POLICY, HEADERS[POLICY]!.replace("style-src 'self'", `style-src 'self' 'nonce-${nonce}'`))
  }
  await next()
}
