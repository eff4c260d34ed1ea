/** Analysis in a thread of its own: what takes long there is in nobody's way while the gate is changed. */
import { expose } from 'comlink'
import { type Analysed, Analysis } from './told-findings'

const analysis = new Analysis()

const worker = {
  findings: (asked: Analysed) => analysis.findings(asked),
  fix: (at: number) => analysis.fix(at),
}

export type FindingsWorker = typeof worker
expose(worker)
