/** Threads beside the one that answers requests, for whatever takes longer than an answer may. */
import { resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Worker } from 'node:worker_threads'

const THREAD = resolve('server', 'threads', 'thread.mjs')

export interface ThreadData {
  /** Of the database, for connections of the thread's own. */
  url: string
}

/** @param program a module of the server, as a path from the checkout's root */
export function startThread(program: string, data: ThreadData): Worker {
  const worker = new Worker(THREAD, { workerData: { ...data, program: pathToFileURL(resolve(program)).href }, execArgv: [] })
  // A thread that waits for work does not keep the program alive.
  worker.unref()
  return worker
}
