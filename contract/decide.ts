/** A record's label over HTTP: what is asked, and what is answered. */
import type { Reason } from '@dime-gate/core/result/reason'
import { STATUSES } from '@dime-gate/core/rule/rules'
import { z } from 'zod'
import { dateSchema } from './run'

export const MOST_DECIDED = 1000

/** A value as JSON has it: a text may hold a number or a date; an array is a column set's members. */
const GIVEN = [z.string().max(10_000), z.number(), z.boolean(), z.null()] as const
const givenRecordSchema = z.record(z.string().min(1).max(200), z.union([...GIVEN, z.array(z.union(GIVEN)).max(1000)]))
export type GivenRecord = z.infer<typeof givenRecordSchema>

export const decideRequestSchema = z.strictObject({
  /** Values by the names of the gate's inputs; what is left out is blank. One record, or up to a thousand. */
  records: z.array(givenRecordSchema).min(1).max(MOST_DECIDED),
  /** The day that counts as today; the workspace's where it is left out. */
  asOf: dateSchema.optional(),
  /** Whether to say why, test by test. */
  why: z.boolean().optional(),
  /** Whether to say what analysis finds in the gate itself. */
  findings: z.boolean().optional(),
})
export type DecideRequest = z.infer<typeof decideRequestSchema>

/** In canonical text: a number as a decimal, a date as ISO 8601 writes it. */
const value = z.string().nullable()

export const whySchema = z.object({
  inputs: z.array(z.object({
    name: z.string(),
    /** As the gate saw it, rounded where the gate says so; null for a blank. */
    value,
    /** What could not be read, where there is such a text. */
    unreadable: value,
  })),
  rules: z.array(z.object({
    /** From 1. */
    rule: z.int(),
    verdict: z.enum(['true', 'false', 'unknown']),
    tests: z.array(z.object({
      test: z.string(),
      isNegated: z.boolean(),
      verdict: z.enum(['true', 'false', 'unknown']),
      saw: value,
      /** The nearest cut, and how far the value lies past it; less than nothing where it lies short of it. */
      nearest: z.object({ at: value, distance: value }).nullable(),
    })),
  })),
})
export type ToldWhy = z.infer<typeof whySchema>

const reasonSchema: z.ZodType<Reason> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('unreadable'), input: z.string(), text: z.string() }),
  z.object({ kind: z.literal('held'), inputs: z.array(z.string()) }),
  z.object({ kind: z.literal('contested') }),
  z.object({ kind: z.literal('unplaced') }),
  z.object({ kind: z.literal('off the scale'), input: z.string(), end: z.enum(['floor', 'ceiling']), at: z.string() }),
  z.object({ kind: z.literal('outside'), input: z.string(), value: z.string() }),
  z.object({ kind: z.literal('edge'), of: z.string(), at: z.string(), side: z.enum(['on', 'short', 'past']) }),
])

export const decidedSchema = z.object({
  status: z.enum(STATUSES),
  /** Null where the record has none. */
  label: value,
  /** By outcome, the label among them. */
  outcomes: z.record(z.string(), value),
  /** The rule, band, tray or cell that decided, from 1 in the order of the gate; null where none did. */
  rule: z.int().nullable(),
  /** Of a held record the inputs that would settle it. */
  missing: z.array(z.string()),
  /** Why somebody should look at it. */
  exceptions: z.array(reasonSchema),
  why: whySchema.optional(),
})
export type Decided = z.infer<typeof decidedSchema>

export const decideAnswerSchema = z.object({
  gate: z.string(),
  version: z.int(),
  asOf: dateSchema,
  /** Gates whose outcomes it takes, each with the version that was used. */
  feeding: z.array(z.object({ gate: z.string(), version: z.int() })),
  /** In the order of the request. */
  records: z.array(decidedSchema),
  findings: z.array(z.object({ kind: z.string(), severity: z.enum(['error', 'warning', 'note']), words: z.string(), rules: z.array(z.int()), example: z.record(z.string(), value).nullable() })).optional(),
})
export type DecideAnswer = z.infer<typeof decideAnswerSchema>
