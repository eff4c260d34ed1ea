import { GateError } from '../gate-error'

/** For tests: what a gate is refused with; null where it is written. */
export function refusal(work: () => unknown): string | null {
  try {
    work()
  } catch (error) {
    if (error instanceof GateError) return error.message
    throw error
  }
  return null
}
