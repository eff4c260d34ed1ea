/** Talks to the server. Every answer is checked against the contract before anything relies on it. */
import { API } from '@dime-gate/contract/api'
import { type Problem, problemSchema } from '@dime-gate/contract/problem'
import { type Progress, progressSchema } from '@dime-gate/contract/table'
import { z } from 'zod'
import { noteAway } from './connection'

/** The server could not do what was asked, or could not be reached; the message says what to do. */
export class RequestProblem extends Error {
  constructor(readonly status: number, readonly problem: Problem) {
    super(problem.message)
  }
}

const UNREACHABLE: Problem = { code: 'unreachable', message: 'The server does not answer. See whether the start command still runs; nothing you typed is lost, and this page goes on once the server is back.' }

/** What passes by itself: the server, or its database, is not there at present. */
export function isPassing(error: unknown): boolean {
  return error instanceof RequestProblem && (error.status === 0 || error.problem.code === 'database-away')
}

/** Milliseconds for which what was asked ahead is new enough. */
const NEW = 3000
const ahead = new Map<string, Promise<Response>>()

/** Asks for what the next page will ask for first, while that page is still on its way. Whoever asks for it gets this answer, once. */
export function askAhead(path: string): void {
  const answer = fetch(API + path)
  ahead.set(path, answer)
  // Whoever takes it is told.
  answer.catch(() => undefined)
  setTimeout(() => ahead.get(path) === answer && ahead.delete(path), NEW)
}

export async function ask<Answer>(schema: z.ZodType<Answer>, path: string, request?: RequestInit): Promise<Answer> {
  const early = request ? undefined : ahead.get(path)
  if (early) ahead.delete(path)
  const response = await (early ?? fetch(API + path, request)).catch(() => {
    throw told(new RequestProblem(0, UNREACHABLE))
  })
  const body: unknown = await response.json().catch(() => null)
  if (!response.ok) throw problemOf(response.status, body)
  return schema.parse(body)
}

/** An answer that is no JSON: its bytes. */
export async function askBytes(path: string, body: unknown): Promise<ArrayBuffer> {
  return (await askPlain(path, { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } })).arrayBuffer()
}

/** An answer that is no JSON: its text. */
export async function askText(path: string): Promise<string> {
  return (await askPlain(path)).text()
}

async function askPlain(path: string, request: RequestInit = {}): Promise<Response> {
  const response = await fetch(API + path, request).catch(() => {
    throw told(new RequestProblem(0, UNREACHABLE))
  })
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => null))
  return response
}

/** Browsers let no more than this outlive the page that sent it (Fetch standard, keepalive). */
const MOST_KEEPALIVE = 60_000

/** @param keepalive lets the request go on when the page is left, where it is small enough */
export function askWith<Answer>(schema: z.ZodType<Answer>, method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body: unknown, { keepalive = false, key = null as string | null } = {}): Promise<Answer> {
  const text = JSON.stringify(body)
  return ask(schema, path, { method, body: text, headers: { 'Content-Type': 'application/json', ...(key === null ? {} : { 'Idempotency-Key': key }) }, keepalive: keepalive && text.length < MOST_KEEPALIVE })
}

/**
 * Sends a file and tells how far it has got.
 * @param progress is called with the share sent, 0 to 1
 */
export function send<Answer>(schema: z.ZodType<Answer>, path: string, file: Blob, progress: (share: number) => void, signal: AbortSignal): Promise<Answer> {
  // fetch cannot tell how much of a body has gone out.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', API + path)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded, total }) => progress(total > 0 ? loaded / total : 1)
    request.onerror = () => reject(told(new RequestProblem(0, UNREACHABLE)))
    request.onabort = () => reject(new DOMException('cancelled', 'AbortError'))
    request.onload = () => {
      if (request.status >= 400) reject(problemOf(request.status, request.response))
      else resolve(schema.parse(request.response))
    }
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}

const lineSchema = z.union([z.object({ progress: progressSchema }), z.object({ status: z.int(), body: z.unknown() })])

/**
 * Asks for something that takes long, and tells how far it is.
 * @param signal aborts it: the server then leaves it, and nothing of it stays
 */
export async function askAtLength<Answer>(schema: z.ZodType<Answer>, path: string, body: unknown, heard: (progress: Progress) => void, signal: AbortSignal): Promise<Answer> {
  const response = await fetch(API + path, { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json', Accept: 'application/x-ndjson' }, signal }).catch((error: Error) => {
    throw signal.aborted ? error : told(new RequestProblem(0, UNREACHABLE))
  })
  if (!response.ok || !response.body) throw problemOf(response.status, await response.json().catch(() => null))
  let rest = ''
  for await (const piece of piecesOf(response.body.pipeThrough(new TextDecoderStream()))) {
    const lines = (rest + piece).split('\n')
    rest = lines.pop()!
    for (const text of lines) {
      const line = lineSchema.parse(JSON.parse(text))
      if ('progress' in line) heard(line.progress)
      else if (line.status >= 400) throw problemOf(line.status, line.body)
      else return schema.parse(line.body)
    }
  }
  throw signal.aborted ? new DOMException('cancelled', 'AbortError') : told(new RequestProblem(0, UNREACHABLE))
}

/** Not every browser lets streams be walked over. */
async function* piecesOf(stream: ReadableStream<string>): AsyncGenerator<string> {
  const reader = stream.getReader()
  for (;;) {
    const { done, value } = await reader.read().catch((): { done: true; value: undefined } => ({ done: true, value: undefined }))
    if (done) return
    yield value!
  }
}

function problemOf(status: number, body: unknown): RequestProblem {
  const problem = problemSchema.safeParse(body)
  return told(new RequestProblem(status, problem.data ?? { code: 'failed', message: `The server answered ${status} without saying why. Try again.` }))
}

function told(problem: RequestProblem): RequestProblem {
  if (isPassing(problem)) noteAway(problem.message)
  return problem
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error)
}
