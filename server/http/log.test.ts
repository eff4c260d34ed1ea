import { openDatabase } from '../database/database'
import { makeLog } from './log'

const SECRET = 'Crown of the big oak'

async function logged(fault: () => unknown): Promise<{ text: string; error: Record<string, unknown> }> {
  const lines: string[] = []
  const log = makeLog('warn', { write: (line) => void lines.push(line) })
  try {
    await fault()
  } catch (error) {
    log.error({ error }, 'request failed')
  }
  return { text: lines.join(''), error: (JSON.parse(lines[0]!) as { error: Record<string, unknown> }).error }
}

test('a refusal of the database is logged by its code and names, without the value that it quotes', async () => {
  const database = openDatabase(process.env.TEST_DATABASE_URL!)
  const { text, error } = await logged(() => database.query(`select '${SECRET}'::numeric`))
  await database.end()
  expect(error).toMatchObject({ type: 'DatabaseError', code: '22P02', database: { routine: expect.stringMatching(/^\w+$/) as string } })
  expect(text).not.toContain(SECRET)
})

test.each([
  ['JSON that is none', () => JSON.parse(SECRET) as unknown],
  [
    'an error that quotes, over several lines that look like places',
    () => {
      throw new TypeError(`no number: ${SECRET}\n    at ${SECRET}`)
    },
  ],
  [
    'a cause beneath it',
    () => {
      throw new Error('outer', { cause: new RangeError(SECRET) })
    },
  ],
])('%s is logged with its type and where it came from, without its words', async (_, fault) => {
  const { text, error } = await logged(fault)
  expect(error.type).toMatch(/Error$/)
  expect((error.places as string[]).some((place) => /log\.test\.ts:\d+:\d+\)?$/.test(place))).toBe(true)
  expect(text).not.toContain(SECRET)
})

test('what is no error at all is logged by its kind', async () => {
  const { text, error } = await logged(() => {
    throw SECRET as unknown as Error
  })
  expect(error).toEqual({ type: 'string', places: [] })
  expect(text).not.toContain(SECRET)
})
