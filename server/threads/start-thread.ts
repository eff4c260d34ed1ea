/** Threads beside the one that answers requests, for whatever takes longer than an answer may. */
import { constants, setPriority } from 'node:os'
import { resolve } from 'node:path'
import { Worker } from 'node:worker_threads'

/** Set where the server is built; there the threads' program is one file too, which starts in no time. */
declare const IS_BUILT: boolean | undefined
const PROGRAM = typeof IS_BUILT === 'undefined' ? resolve('server', 'threads', 'from-sources.mjs') : resolve('build', 'thread.mjs')

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

export function startThread(data: ThreadData): Worker {
  const worker = new Worker(PROGRAM, { workerData: data, execArgv: [] })
  // A thread that waits for work does not keep the program alive.
  worker.unref()
  return worker
}
