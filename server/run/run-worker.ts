/** A thread that decides runs, so that whoever answers requests never waits for one. */
import { parentPort, workerData } from 'node:worker_threads'
import { isAway, openDatabase } from '../database/database'
import { giveWay, type ThreadData } from '../threads/start-thread'
import { decideRun, type RunJob } from './decide-run'

export type RunMessage = { kind: 'progress'; records: number } | { kind: 'done' } | { kind: 'failed'; message: string }

giveWay()

const database = openDatabase((workerData as ThreadData).url)
const AWAY = 'The database went away while this run was under way. Keep the run again.'
const tell = (message: RunMessage) => parentPort!.postMessage(message)

parentPort!.on('message', (job: RunJob) => {
  decideRun(database, job, (records) => tell({ kind: 'progress', records })).then(
    () => tell({ kind: 'done' }),
    (error: Error) => tell({ kind: 'failed', message: isAway(error) ? AWAY : error.message }),
  )
})
