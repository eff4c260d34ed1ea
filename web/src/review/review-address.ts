/** What is chosen in the review, as it stands in the address: so that it can be sent, and comes back with a reload. */
import { EXCEPTION_STATES, WAITING, type ExceptionState } from '@dime-gate/contract/review'
import { EXCEPTION_KINDS, type ExceptionKind } from '@dime-gate/core/result/exception'
import { z } from 'zod'
import { type ExceptionPlace, GROUPINGS, type Grouping } from './review-groups'

export interface ReviewAddress {
  by: Grouping
  /** Null for any. */
  gate: number | null
  table: number | null
  /** Whom they wait for, by id; 0 for nobody in particular. */
  person: number | null
  kind: ExceptionKind | null
  /** Those that wait, or all, or those in one state. */
  shows: 'waiting' | 'all' | ExceptionState
  text: string
  /** The one in hand; null for the first. */
  at: ExceptionPlace | null
}

export const FIRST: ReviewAddress = { by: 'reason', gate: null, table: null, person: null, kind: null, shows: 'waiting', text: '', at: null }

const idSchema = z.coerce.number().int().positive().nullable()
const placeSchema = z.tuple([z.coerce.number().int().positive(), z.coerce.number().int().nonnegative()])

/** Only what is not as it is at first stands in the address. */
export function queryOf({ by, gate, table, person, kind, shows, text, at }: ReviewAddress): Record<string, string> {
  return {
    ...(by === FIRST.by ? {} : { by }),
    ...(gate === null ? {} : { gate: String(gate) }),
    ...(table === null ? {} : { table: String(table) }),
    ...(person === null ? {} : { person: String(person) }),
    ...(kind === null ? {} : { kind }),
    ...(shows === FIRST.shows ? {} : { shows }),
    ...(text === '' ? {} : { text }),
    ...(at === null ? {} : { at: `${at.runId}.${at.record}` }),
  }
}

/** What cannot be read is as it is at first. */
export function addressOf(query: Record<string, unknown>): ReviewAddress {
  const text = (name: string) => (typeof query[name] === 'string' ? query[name] : null)
  const read = <Value>(schema: z.ZodType<Value>, value: unknown, first: Value): Value => schema.safeParse(value).data ?? first
  const at = placeSchema.safeParse((text('at') ?? '').split('.')).data
  return {
    by: read(z.enum(GROUPINGS), text('by'), FIRST.by),
    gate: read(idSchema, text('gate'), null),
    table: read(idSchema, text('table'), null),
    person: read(z.coerce.number().int().nonnegative().nullable(), text('person'), null),
    kind: read(z.enum(EXCEPTION_KINDS).nullable(), text('kind'), null),
    shows: read(z.enum(['waiting', 'all', ...EXCEPTION_STATES]), text('shows'), FIRST.shows),
    text: text('text') ?? '',
    at: at ? { runId: at[0], record: at[1] } : null,
  }
}

export function statesOf(shows: ReviewAddress['shows']): ExceptionState[] | null {
  return shows === 'all' ? null : shows === 'waiting' ? [...WAITING] : [shows]
}
