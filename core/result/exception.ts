/** Exceptions: records of a run that someone should look at. What is alike, and what a settlement stands on, is told from their reasons. */
import type { Reason } from './reason'

/** Kinds of exceptions, what weighs most first. One that has several reasons is of the first kind. */
export const EXCEPTION_KINDS = ['unreadable', 'contested', 'unplaced', 'held', 'outside', 'on an edge', 'near an edge', 'changed', 'highlighted', 'overridden'] as const
export type ExceptionKind = (typeof EXCEPTION_KINDS)[number]

export function exceptionKind(reason: Reason): ExceptionKind {
  switch (reason.kind) {
    case 'off the scale':
      return 'unplaced'
    case 'edge':
      return reason.side === 'on' ? 'on an edge' : 'near an edge'
    default:
      return reason.kind
  }
}

/** What weighs most. @param reasons may be none, as of a record that was only overridden by hand */
export function mainKind(reasons: readonly Reason[]): ExceptionKind {
  const kinds = reasons.map(exceptionKind)
  return EXCEPTION_KINDS.find((kind) => kinds.includes(kind)) ?? 'overridden'
}

/** By reason what it has in common with that of records that are alike: all but the value itself. */
export function reasonKeys(reasons: readonly Reason[]): string[] {
  return reasons.map((reason) => {
    switch (reason.kind) {
      case 'unreadable':
      case 'outside':
        return JSON.stringify([reason.kind, reason.input])
      default:
        return JSON.stringify(Object.values(reason))
    }
  })
}

/** The inputs whose values the reasons speak of: all of them where they speak of none in particular, as where the label has changed. */
export function inputsOf(reasons: readonly Reason[], all: readonly string[]): string[] {
  const named = reasons.flatMap((reason): string[] => {
    switch (reason.kind) {
      case 'unreadable':
      case 'off the scale':
      case 'outside':
        return [reason.input]
      case 'held':
        return reason.inputs
      case 'edge':
        return all.includes(reason.of) ? [reason.of] : [...all]
      default:
        return [...all]
    }
  })
  return all.filter((name) => named.includes(name))
}
