/** The interface's files. Every address without a file of its own is a place in the interface. */
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Middleware } from 'koa'
import send from 'koa-send'

const YEAR = 365 * 24 * 3600 * 1000
/** What the build leaves where a page's nonce belongs. */
const NONCE_PLACE = '__NONCE__'

export function pages(folder: string): Middleware {
  return async (context, next) => {
    if (context.path.startsWith('/api/') || (context.method !== 'GET' && context.method !== 'HEAD')) return next()
    if (!/\.[a-z0-9]+$/i.test(context.path)) {
      const page = await readFile(join(folder, 'index.html'), 'utf8')
      context.type = 'html'
      context.set('Cache-Control', 'no-cache')
      context.body = page.replaceAll(NONCE_PLACE, context.state.nonce as string)
      return
    }
    // Built files bear a hash of their content in their names.
    await send(context, context.path, { root: folder, maxAge: context.path.startsWith('/assets/') ? YEAR : 0, immutable: true })
      .catch((error: { status?: number }) => {
        if (error.status !== 404) throw error
      })
  }
}
