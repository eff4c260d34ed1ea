/** What threads do: each task by its kind, in the room it belongs to. */
import { type AnswerTask, makeAnswer } from './answer/make-answer'
import { countOtherwise, type FreshTask } from './comparison/count-otherwise'
import { explainMoves, type ExplainTask } from './comparison/explain-moves'
import { type ImportTask, importFile, mergeSentFile, type MergeTask } from './file/import-file'
import { lookAtFile, type LookTask } from './file/look-at-file'
import { decideInThread, type DecideTask } from './gate/decisions'
import { computeFigures, type FigureTask } from './figure/compute-figures'
import { decideRun } from './run/decide-run'
import type { RunTask } from './run/run-jobs'
import { type ExceptionsTask, findExceptions } from './review/find-exceptions'
import { serveTasks } from './threads/serve-tasks'

serveTasks<RunTask | AnswerTask | ExceptionsTask | ExplainTask | FreshTask | LookTask | ImportTask | MergeTask | FigureTask | DecideTask, never, unknown>((task, on) => {
  switch (task.kind) {
    case 'run':
      return decideRun(task.job, on)
    case 'answer':
      return makeAnswer(task, on)
    case 'exceptions':
      return findExceptions(task, on)
    case 'fresh':
      return countOtherwise(task, on)
    case 'explain':
      return explainMoves(task, on)
    case 'decide':
      return Promise.resolve(decideInThread(task))
    case 'figures':
      return computeFigures(task, on)
    case 'look':
      return lookAtFile(task, on)
    case 'import':
      return importFile(task, on)
    case 'merge':
      return mergeSentFile(task, on)
  }
})
