/** The thread's side of a pool: one task after the other, each to its end. */
import { parentPort, workerData } from 'node:worker_threads'
import { type Database, openDatabase } from '../database/database'
import { type Failure, failureOf } from './failure'
import { giveWay, type ThreadData } from './start-thread'

/** What there is to do, told apart by its kind. */
export interface AnyTask {
  kind: string
}

export type ToThread<Task> = { kind: 'task'; task: Task } | { kind: 'stop' }
export type FromThread<Said, Result> =
  { kind: 'said'; message: Said } | { kind: 'done'; result: Result } | { kind: 'failed'; failure: Failure }

export interface OnTask<Said> {
  database: Database
  /** Tells the one who waits how far it is. */
  say(message: Said): void
  /** Aborts where nobody waits any more. */
  signal: AbortSignal
}

export function serveTasks<Task extends AnyTask, Said, Result>(work: (task: Task, on: OnTask<Said>) => Promise<Result>): void {
  giveWay()
  const database = openDatabase((workerData as ThreadData).url, { waits: true })
  const tell = (message: FromThread<Said, Result>) => parentPort!.postMessage(message)
  let current = new AbortController()
  parentPort!.on('message', (message: ToThread<Task>) => {
    if (message.kind === 'stop') return current.abort()
    current = new AbortController()
    work(message.task, { database, say: (said) => tell({ kind: 'said', message: said }), signal: current.signal }).then(
      (result) => tell({ kind: 'done', result }),
      (error: unknown) => tell({ kind: 'failed', failure: failureOf(error) }),
    )
  })
}
