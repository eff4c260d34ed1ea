/** A thread that reads files into tables, one at a time. */
import { parentPort, workerData } from 'node:worker_threads'
import type { ImportRequest } from '@dime-gate/contract/table'
import { FileError, type FileProblem } from '@dime-gate/interchange/table/problem'
import { openDatabase } from '../database/database'
import type { Refusal } from '../http/refusal'
import { refusalFor } from '../http/refusal-for'
import { giveWay, type ThreadData } from '../threads/start-thread'
import { importTable } from './import-table'

export type ToImporter =
  | { kind: 'begin'; request: ImportRequest }
  | { kind: 'bytes'; bytes: Uint8Array }
  /** The file is whole, or will never be. */
  | { kind: 'end'; isWhole: boolean }

export type FromImporter =
  /** Ready for another piece of the file. */
  | { kind: 'taken' }
  | { kind: 'done'; tableId: number }
  | { kind: 'unreadable'; problem: FileProblem }
  | { kind: 'refused'; refusal: Pick<Refusal, 'status' | 'problem'> }
  | { kind: 'failed'; message: string }

giveWay()
const database = openDatabase((workerData as ThreadData).url)
const tell = (message: FromImporter) => parentPort!.postMessage(message)

/** Pieces that have come and are not asked for yet, and whoever waits for the next. */
let pieces: (Uint8Array | { isWhole: boolean })[] = []
let arrived: () => void = () => undefined

async function* arrivals(): AsyncGenerator<Uint8Array> {
  for (;;) {
    const piece = pieces.shift()
    if (piece === undefined) await new Promise<void>((resolve) => (arrived = resolve))
    else if (piece instanceof Uint8Array) {
      tell({ kind: 'taken' })
      yield piece
    } else if (piece.isWhole) return
    else throw new Error('the file did not come in whole')
  }
}

function whatWentWrong(error: unknown): FromImporter {
  if (error instanceof FileError) return { kind: 'unreadable', problem: error.problem }
  const refusal = refusalFor(error)
  if (refusal) return { kind: 'refused', refusal: { status: refusal.status, problem: refusal.problem } }
  return { kind: 'failed', message: (error as Error).message }
}

parentPort!.on('message', (message: ToImporter) => {
  if (message.kind === 'begin') {
    pieces = []
    importTable(database, arrivals(), message.request).then((tableId) => tell({ kind: 'done', tableId }), (error: unknown) => tell(whatWentWrong(error)))
    return
  }
  pieces.push(message.kind === 'bytes' ? message.bytes : { isWhole: message.isWhole })
  arrived()
})
