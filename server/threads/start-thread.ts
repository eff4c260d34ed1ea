/** Threads beside the one that answers requests, for whatever takes longer than an answer may. */
import { constants, setPriority } from 'node:os'
import { resolve } from 'node:path'
import { Worker } from 'node:worker_threads'

/** Set where the server is built; there the threads' program is one file too, which starts in no time. Tests of a server from sources can have it as well. */
declare const IS_BUILT: boolean | undefined
const isBuilt = typeof IS_BUILT !== 'undefined' || process.env.BUILT_THREADS === '1'
const PROGRAM = isBuilt ? resolve('build', 'thread.mjs') : resolve('server', 'threads', 'from-sources.mjs')

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

/** Megabytes for what has just been made, as it is by itself: threads do not answer many at once, and there are several. */
const NEW_SPACE = 48

export function startThread(data: ThreadData): Worker {
  const worker = new Worker(PROGRAM, { workerData: data, execArgv: [], resourceLimits: { maxYoungGenerationSizeMb: NEW_SPACE } })
  // A thread that waits for work does not keep the program alive.
  worker.unref()
  return worker
}
