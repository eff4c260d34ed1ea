/** A request that cannot be done, for a reason that the person who made it can act on. */
import type { Problem } from '@dime-gate/contract/problem'

export class Refusal extends Error {
  constructor(readonly status: number, readonly problem: Problem) {
    super(problem.message)
  }
}

export function notFound(what: string): Refusal {
  return new Refusal(404, { code: 'not-found', message: `There is no such ${what}. It may have been removed; go back to the desk.` })
}

export function conflict(code: string, message: string): Refusal {
  return new Refusal(409, { code, message })
}

export function unprocessable(code: string, message: string): Refusal {
  return new Refusal(422, { code, message })
}
