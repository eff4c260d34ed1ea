/** Threads beside the one that answers requests, for whatever takes longer than an answer may. */
import { constants, setPriority } from 'node:os'
import { resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Worker } from 'node:worker_threads'

const THREAD = resolve('server', 'threads', 'thread.mjs')

/**
 * Whoever waits for an answer comes before the work of this thread.
 * 0 is this thread alone on Linux (setpriority(2)).
 */
export function giveWay(): void {
  setPriority(0, constants.priority.PRIORITY_BELOW_NORMAL)
}

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
