/** The server's description as OpenAPI 3.1.1 says it, made from the schemas that requests and answers are held to. */
import { z } from 'zod'
import { API } from './api'
import { type Operation, OPERATIONS } from './operations'
import { problemSchema } from './problem'

const ABOUT = {
  desk: 'What there is', files: 'Files on their way in', tables: 'Tables and their records', gates: 'Gates, their versions, and labels for single records', runs: 'Runs', review: 'Exceptions of runs, and what becomes of them', slips: 'Single results, and links that are handed on', around: 'Around it',
} satisfies Record<Operation['of'], string>

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' })
  return rest
}

export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const operation of OPERATIONS) (paths[operation.path] ??= {})[operation.method] = described(operation)
  return {
    openapi: '3.1.1',
    info: { title: 'Dime Gate', version: '1', summary: 'Labels for records, from score bands and conditions.' },
    servers: [{ url: API }],
    tags: Object.entries(ABOUT).map(([name, description]) => ({ name, description })),
    paths,
    components: {
      schemas: { Problem: schemaOf(problemSchema, 'output') },
      responses: { Problem: { description: 'What is wrong, where, and what to do: a code for programs, and a sentence for people.', content: { 'application/json': { schema: { $ref: '#/components/schemas/Problem' } } } } },
    },
  }
}

function described({ path, about, of, body, answer, status = 200, query = {}, hasKey = false, method }: Operation): object {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: /^(id|table|number|column|record|version|link)$/.test(name!) && !path.startsWith('/files') ? 'integer' : 'string' } }))
  const inQuery = Object.entries(query).map(([name, description]) => ({ name, in: 'query', description, required: name === 'name', schema: { type: 'string' } }))
  const key = hasKey ? [{ name: 'Idempotency-Key', in: 'header', description: 'Asked again under the same key, the change is made once.', schema: { type: 'string' } }] : []
  return {
    operationId: operationId(method, path), tags: [of], summary: about, parameters: [...inPath, ...inQuery, ...key],
    ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(body, 'input') } } } } : {}),
    ...(path === '/files' ? { requestBody: { required: true, content: { 'application/octet-stream': {} } } } : {}),
    responses: {
      [status]: { description: answer === null ? 'It is done.' : 'What was asked for.', ...contentOf(answer) },
      default: { $ref: '#/components/responses/Problem' },
    },
  }
}

function contentOf(answer: Operation['answer']): object {
  if (answer === null) return {}
  if (!(answer instanceof z.ZodType)) return { content: Object.fromEntries(answer.map((media) => [media, {}])) }
  return { content: { 'application/json': { schema: schemaOf(answer, 'output') } } }
}

function operationId(method: string, path: string): string {
  const words = path.split(/[/.]/).filter((part) => part !== '').map((part) => part.replace(/[{}]/g, ''))
  return [method, ...words].map((word, at) => (at === 0 ? word : word.charAt(0).toUpperCase() + word.slice(1).replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase()))).join('')
}
