/** The log says what went wrong and where, and nothing that people wrote. */
import { type Logger, pino } from 'pino'

export function makeLog(level: string, to?: { write(line: string): void }): Logger {
  const options = { level, serializers: { error: loggedError } }
  return to ? pino(options, to) : pino(options)
}

/** What is known of a fault without its message, which can quote a value; the places in the code lead to its words. */
export interface LoggedError {
  type: string
  code?: string
  /** What the database tells by name: a constraint, a column, the routine that refused. */
  database?: Record<string, string>
  places: string[]
  cause?: LoggedError
}

const NAMES = ['schema', 'table', 'column', 'constraint', 'dataType', 'routine'] as const

/** @param error whatever was thrown */
export function loggedError(error: unknown): LoggedError {
  if (!(error instanceof Error)) return { type: typeof error, places: [] }
  const { code, cause } = error as Error & { code?: unknown }
  const told = error as Partial<Record<(typeof NAMES)[number], unknown>>
  const names = NAMES.flatMap((name) => (typeof told[name] === 'string' ? [[name, told[name]] as const] : []))
  return {
    type: error.constructor.name,
    ...(typeof code === 'string' ? { code } : {}),
    ...(names.length > 0 ? { database: Object.fromEntries(names) } : {}),
    places: behindMessage(error)
      .split('\n')
      .flatMap((line) => /^ {4}at (.*)$/.exec(line)?.[1] ?? []),
    ...(cause === undefined ? {} : { cause: loggedError(cause) }),
  }
}

/** A message can have lines of its own. */
function behindMessage({ stack = '', message }: Error): string {
  const at = stack.indexOf(message)
  return at < 0 ? '' : stack.slice(at + message.length)
}
