/** A server for tests: answers by method and path what it is told to, and remembers what it was asked. */
import { API } from '@dime-gate/contract/api'
import type { Problem } from '@dime-gate/contract/problem'

export interface Asked {
  method: string
  path: string
  body: unknown
}

/** An answer with a status of its own. */
export class Refusal {
  constructor(readonly status: number, readonly code: Problem['code'], readonly message: string) {}
}

type Answer = unknown | Promise<unknown>

/**
 * @param answer by what is asked: a body, bytes, a `Refusal`; undefined for what is not there. An error is a server that does not answer
 * @returns what was asked, in its order
 */
export function aServer(answer: (asked: Asked) => Answer): Asked[] {
  const all: Asked[] = []
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    const asked = { method: init.method ?? 'GET', path: path.slice(path.indexOf(API) + API.length), body: init.body ? (JSON.parse(init.body as string) as unknown) : null }
    all.push(asked)
    const found = await answer(asked)
    if (init.signal?.aborted) throw new DOMException('nobody waits for it', 'AbortError')
    if (found instanceof Refusal) return json({ code: found.code, message: found.message }, found.status)
    if (found === undefined) return json({ code: 'not-found', message: `There is nothing at ${asked.path}.` }, 404)
    return found instanceof Response ? found : json(found, 200)
  }) as typeof fetch
  return all
}

function json(body: unknown, status: number): Response {
  return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
}

/** Lets what was asked for be answered. */
export async function answered(): Promise<void> {
  for (let turn = 0; turn < 20; turn++) await new Promise((resolve) => setImmediate(resolve))
}
