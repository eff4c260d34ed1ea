/** Values by chance that a schema lets in, or nearly; from the JSON Schema (draft 2020-12) that Zod makes of it. */
import fc from 'fast-check'
import { z } from 'zod'

interface Shape {
  $ref?: string
  $defs?: Record<string, Shape>
  const?: unknown
  enum?: unknown[]
  anyOf?: Shape[]
  oneOf?: Shape[]
  allOf?: Shape[]
  type?: string
  properties?: Record<string, Shape>
  required?: string[]
  additionalProperties?: Shape | boolean
  items?: Shape | boolean
  prefixItems?: Shape[]
  format?: string
  pattern?: string
  minItems?: number
  maxItems?: number
}

/** @param strange stands, now and then, where something else belongs */
export function fromSchema(schema: z.ZodType, strange: fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  const whole = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Shape
  return arbitraryOf(whole, whole, strange, 0)
}

/** Most that lists, and what is nested in itself, grow to: much stays small, so that all of it is met. */
const MOST_ITEMS = 3
const DEEPEST = 12
/** One in so many parts is strange. */
const STRANGE_IN = 40

function arbitraryOf(shape: Shape, whole: Shape, strange: fc.Arbitrary<unknown>, depth: number): fc.Arbitrary<unknown> {
  if (depth > DEEPEST) return strange
  const right = rightOf(shape, whole, strange, depth)
  return fc.oneof({ weight: STRANGE_IN, arbitrary: right }, { weight: 1, arbitrary: strange })
}

function rightOf(shape: Shape, whole: Shape, strange: fc.Arbitrary<unknown>, depth: number): fc.Arbitrary<unknown> {
  const inner = (part: Shape) => arbitraryOf(part, whole, strange, depth + 1)
  if (shape.$ref) return inner(shape.$ref === '#' ? whole : whole.$defs![shape.$ref.replace('#/$defs/', '')]!)
  if ('const' in shape) return fc.constant(shape.const)
  if (shape.enum) return fc.constantFrom(...shape.enum)
  const choices = shape.anyOf ?? shape.oneOf
  if (choices) return fc.oneof(...choices.map(inner))
  if (shape.allOf) return inner(Object.assign({}, ...shape.allOf) as Shape)
  switch (shape.type) {
    case 'object':
      return objectOf(shape, inner)
    case 'array':
      if (shape.prefixItems) return fc.tuple(...shape.prefixItems.map(inner))
      return fc.array(typeof shape.items === 'object' ? inner(shape.items) : strange, {
        minLength: Math.min(shape.minItems ?? 0, MOST_ITEMS),
        maxLength: Math.min(shape.maxItems ?? MOST_ITEMS, MOST_ITEMS),
      })
    case 'string':
      return textOf(shape)
    case 'integer':
      return fc.oneof(fc.integer({ min: 1, max: 6 }), fc.integer())
    case 'number':
      return fc.double()
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    default:
      return strange
  }
}

function objectOf(
  { properties = {}, required = [], additionalProperties }: Shape,
  inner: (part: Shape) => fc.Arbitrary<unknown>,
): fc.Arbitrary<unknown> {
  const own = fc.record(Object.fromEntries(Object.entries(properties).map(([name, part]) => [name, inner(part)])), {
    requiredKeys: required.filter((name) => name in properties),
  })
  if (typeof additionalProperties !== 'object' || Object.keys(additionalProperties).length === 0) return own
  return fc
    .tuple(own, fc.dictionary(fc.constantFrom('Decay', 'Trees', '0', 'x'), inner(additionalProperties), { maxKeys: 2 }))
    .map(([some, others]) => ({ ...some, ...others }))
}

/** Texts that mean something to somebody, and such as mean nothing. */
function textOf({ format, pattern }: Shape): fc.Arbitrary<string> {
  if (format === 'date' || pattern?.includes('\\d{4}'))
    return fc.constantFrom('2026-03-02', '2024-02-29', '0001-01-01', '9999-12-31', '2026-02-30')
  return fc.oneof(
    fc.constantFrom('Decay', 'Tree', 'Trees', 'Decay > 5', 'mean(Decays)', 'sum(', '12', '-0.5', '#7fa99a', 'Band', '%', 'D*', ''),
    fc.string({ maxLength: 12 }),
    fc.string({ unit: 'binary', maxLength: 6 }),
  )
}
