/**
 * Gate documents of every form. The types are core's; here is the check that data has them. `schema` is the version
 * of the shape: a document of another version is refused here, and brought up to date before it comes here.
 */
import { z } from 'zod'
import { type Entry, type Gate, type GridSide, HIT_POLICIES, type Input, type Library, type NamedCondition, type OutcomeColumn } from '@dime-gate/core/gate/document'
import { MARKS } from '@dime-gate/core/gate/mark'
import { LONGEST_EXPRESSION } from '@dime-gate/core/expression/tokens'
import { VALUE_KINDS } from '@dime-gate/core/value/value'

/** More than anybody reads, and few enough to be looked at while they are typed. */
const MOST_CUTS = 200
const MOST_RULES = 5000
const MOST_INPUTS = 100
const MOST_CONDITIONS = 200

const name = (most: number) => z.string().trim().min(1).max(most)
/** A value in canonical text: a decimal as text, an ISO 8601 date. What kind it is the rest of the document says. */
const valueText = z.string().max(1000)
const feel = z.string().max(LONGEST_EXPRESSION)
const bound = z.strictObject({ at: valueText, included: z.boolean() })
const look = { colour: z.string().regex(/^#[0-9a-f]{6}$/), mark: z.enum(MARKS) }

export const labelLookSchema = z.strictObject({ label: z.string(), ...look })

export const inputSchema: z.ZodType<Input> = z.strictObject({
  name: name(200),
  type: z.enum(VALUE_KINDS),
  isSet: z.boolean(),
  unit: z.string().max(40),
  source: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('given') }),
    z.strictObject({ kind: z.literal('figure'), feel }),
    z.strictObject({ kind: z.literal('gate'), gate: name(120), outcome: name(200).nullable() }),
  ]),
  expected: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('range'), low: bound.nullable(), high: bound.nullable() }),
    z.strictObject({ kind: z.literal('list'), values: z.array(valueText).max(10_000) }),
  ]).nullable(),
  precision: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('as measured') }),
    z.strictObject({ kind: z.enum(['half up', 'half even', 'truncated']), places: z.int().min(-30).max(30) }),
  ]),
  tolerance: z.string().regex(/^\d{1,30}(\.\d{1,30})?%?$/).nullable().default(null),
  blank: z.enum(['hold', 'pass']).nullable(),
})

const outcome: z.ZodType<OutcomeColumn> = z.strictObject({
  name: name(200),
  type: z.enum(VALUE_KINDS),
  labels: z.array(z.strictObject({ value: valueText, ...look, rank: z.int().nullable() })).max(MOST_RULES),
})

const entry: z.ZodType<Entry> = z.union([z.strictObject({ is: valueText }), z.strictObject({ feel })]).nullable()
const entries = z.array(entry).max(50)

const namedCondition = { name: name(200), feel }
export const sharedConditionSchema = z.strictObject({ id: z.string().regex(/^[0-9a-f-]{8,64}$/), ...namedCondition })

const head = {
  schema: z.literal(1),
  name: name(120),
  inputs: z.array(inputSchema).max(MOST_INPUTS),
  outcomes: z.array(outcome).min(1).max(50),
  otherwise: entries.nullable(),
  examples: z.array(z.strictObject({ values: z.record(name(200), valueText), label: valueText.nullable() })).max(1000).optional(),
  conditions: z.array(sharedConditionSchema).max(MOST_CONDITIONS).optional(),
  meant: z.array(z.strictObject({ finding: z.string().max(4000), key: z.string().max(4000) })).max(1000).optional(),
}
const scale = {
  on: name(200),
  cuts: z.array(z.strictObject({ at: valueText, owner: z.enum(['below', 'above']) })).max(MOST_CUTS),
  floor: bound.nullable(),
  ceiling: bound.nullable(),
}
const list = { on: name(200), folds: z.boolean() }
const side: z.ZodType<GridSide> = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('scale'), ...scale }),
  z.strictObject({ kind: z.literal('list'), ...list, lines: z.array(z.array(valueText).max(10_000)).max(MOST_CUTS) }),
])

export const gateDocumentSchema: z.ZodType<Gate> = z.discriminatedUnion('form', [
  z.strictObject({ ...head, form: z.literal('scale'), ...scale, bands: z.array(z.strictObject({ entries })).min(1).max(MOST_CUTS + 1) }),
  z.strictObject({
    ...head, form: z.literal('rules'), hitPolicy: z.enum(HIT_POLICIES),
    rules: z.array(z.strictObject({ condition: feel, entries, note: z.string().max(2000), isOff: z.literal(true).optional() })).max(MOST_RULES),
  }),
  z.strictObject({ ...head, form: z.literal('match'), ...list, lines: z.array(z.strictObject({ values: z.array(valueText).max(10_000), entries })).max(MOST_RULES) }),
  z.strictObject({ ...head, form: z.literal('grid'), down: side, across: side, cells: z.array(z.array(entries.nullable()).max(MOST_CUTS + 1)).max(MOST_CUTS + 1) }),
])

const libraryCondition: z.ZodType<NamedCondition> = z.strictObject(namedCondition)

/** Several gates in one document, with the named conditions that they share. */
export const librarySchema: z.ZodType<Library> = z.strictObject({ conditions: z.array(libraryCondition).max(1000), gates: z.array(gateDocumentSchema).max(1000) })
