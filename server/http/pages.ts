/** The interface's files. Every address without a file of its own is a place in the interface. */
import send from 'koa-send'
import type { Middleware } from 'koa'

const YEAR = 365 * 24 * 3600 * 1000

export function pages(folder: string): Middleware {
  return async (context, next) => {
    if (context.path.startsWith('/api/') || (context.method !== 'GET' && context.method !== 'HEAD')) return next()
    context.set('Content-Security-Policy', "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; worker-src 'self' blob:")
    context.set('X-Content-Type-Options', 'nosniff')
    const isFile = /\.[a-z0-9]+$/i.test(context.path)
    // Built files bear a hash of their content in their names.
    await send(context, isFile ? context.path : '/index.html', { root: folder, maxAge: context.path.startsWith('/assets/') ? YEAR : 0, immutable: true })
      .catch((error: { status?: number }) => {
        if (error.status !== 404) throw error
      })
  }
}
