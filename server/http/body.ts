/** What a request brings: parameters and JSON bodies, checked against the contract. */
import { once } from 'node:events'
import type { Context } from 'koa'
import type { z } from 'zod'
import { dateSchema } from '@dime-gate/contract/run'
import { refusals } from './refusal'

const MOST_BYTES = 2 * 1024 * 1024

/** The body as JSON. @throws ZodError where it is not as `schema` says, Refusal where it is no JSON or too long */
export async function jsonBody<Value>(context: Context, schema: z.ZodType<Value>, most = MOST_BYTES): Promise<Value> {
  const text = (await bytesOf(context, most)).toString('utf8')
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw refusals.notJson('request')
  }
  return schema.parse(value)
}

/** A body of at most so many bytes; a longer one is refused. */
async function bytesOf(context: Context, most: number): Promise<Buffer> {
  const { req } = context
  // Who is gone before anybody listened is never told as gone.
  if (req.destroyed) throw refusals.cutOff()
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = []
    let size = 0
    const still = setTimeout(() => fail(refusals.cutOff()), PATIENCE)
    const end = () => {
      clearTimeout(still)
      req.off('data', take).off('end', whole).off('error', fail).off('close', broken)
    }
    const fail = (error: Error) => {
      end()
      req.pause()
      reject(error)
    }
    const take = (part: Buffer) => {
      still.refresh()
      size += part.length
      if (size > most) fail(refusals.tooLong(most))
      else parts.push(part)
    }
    const whole = () => {
      end()
      resolve(parts.length === 1 ? parts[0]! : Buffer.concat(parts))
    }
    const broken = () => fail(refusals.cutOff())
    req.on('data', take).on('end', whole).on('error', fail).on('close', broken)
  })
}

/**
 * Gives the body, as it comes, to `work`. Where that fails the rest is still taken in: a browser in the
 * middle of sending would otherwise see a broken connection instead of the answer that says why.
 */
export async function withBody<Result>(context: Context, work: (bytes: AsyncIterable<Uint8Array>) => Promise<Result>): Promise<Result> {
  const { req } = context
  try {
    return await work(arriving(context))
  } catch (error) {
    if (!req.readableEnded && !req.destroyed) {
      req.resume()
      const timer = new AbortController()
      const late = setTimeout(() => timer.abort(), PATIENCE)
      await once(req, 'end', { signal: timer.signal }).catch(() => undefined)
      clearTimeout(late)
    }
    throw error
  }
}

/** Milliseconds that a sender may stand still. How long it takes in all is its own affair. */
const PATIENCE = 60_000

/** @throws Refusal `cut-off` where nothing more comes although it is waited for */
async function* arriving({ req }: Context): AsyncGenerator<Uint8Array> {
  const parts = (req.iterator({ destroyOnReturn: false }) as AsyncIterable<Uint8Array>)[Symbol.asyncIterator]()
  for (;;) {
    let timer: ReturnType<typeof setTimeout> | undefined
    const still = new Promise<never>((_, reject) => (timer = setTimeout(() => reject(refusals.cutOff()), PATIENCE)))
    const next = await Promise.race([parts.next(), still]).finally(() => clearTimeout(timer))
    if (next.done) return
    yield next.value
  }
}

/** The database's ids are whole numbers of 32 bits. */
const LARGEST_ID = 2 ** 31 - 1

/** A positive id in the path; anything else is nowhere. */
export function idOf(context: { params: Record<string, string> }, what: string, parameter = 'id'): number {
  const id = Number(context.params[parameter])
  if (!Number.isSafeInteger(id) || id < 1 || id > LARGEST_ID) throw refusals.notFound(what)
  return id
}

/**
 * The key under which a change is asked for, which then is made once, however often it is asked for; null where there is none.
 * Source: The Idempotency-Key HTTP Header Field (IETF, draft-ietf-httpapi-idempotency-key-header), section 2.
 * @throws Refusal `malformed`
 */
export function keyOf(context: Context): string | null {
  const key = context.get('Idempotency-Key')
  if (key === '') return null
  if (!KEY.test(key)) throw refusals.malformed('An Idempotency-Key has 8 to 64 letters, digits and hyphens.')
  return key
}

const KEY = /^[A-Za-z0-9-]{8,64}$/

/** The day that the address says counts as today; null where it says none. @throws ZodError */
export function dayOf(context: Context): string | null {
  const said = context.query['as-of']
  return said === undefined ? null : dateSchema.parse(said)
}

/** A whole number among the request's parameters; null where it is none. */
export function wholeIn(context: Context, parameter: string): number | null {
  const said = context.query[parameter]
  return typeof said === 'string' && /^\d{1,15}$/.test(said) ? Number(said) : null
}
