/** Analysis in a thread of its own: what takes long there is in nobody's way while the gate is changed. */
import { expose } from 'comlink'
import { changeForm } from '@dime-gate/core/form/change-form'
import type { FormName } from '@dime-gate/core/form/form-change'
import type { Gate } from '@dime-gate/core/gate/document'
import { type Analysed, Analysis } from './told-findings'

const analysis = new Analysis()

const worker = {
  findings: (asked: Analysed) => analysis.findings(asked),
  fix: (at: number) => analysis.fix(at),
  inForm: (gate: Gate, form: FormName) => changeForm(gate, form),
  recordFor: (asked: Analysed, rule: number) => analysis.recordFor(asked, rule),
}

export type FindingsWorker = typeof worker
expose(worker)
