/** Dime Gate with the demo in it, beside the database itself: what a page says is held to what SQL says. */
import pg from 'pg'
import { type DimeGate, openDimeGate } from './dime-gate'

export interface Demo extends DimeGate {
  database: pg.Client
  /** What the server answers below the root of its API. */
  ask<Answer>(path: string): Promise<Answer>
  /** The same of what is sent. @throws Error with what the server says where it refuses */
  send<Answer>(path: string, method: string, body: object): Promise<Answer>
}

export async function openDemo(): Promise<Demo> {
  const gate = await openDimeGate({ demo: true })
  const database = new pg.Client(gate.databaseUrl)
  await database.connect()
  return {
    ...gate,
    database,
    ask: async <Answer>(path: string) => (await (await fetch(`${gate.address}/api/v1${path}`)).json()) as Answer,
    async send<Answer>(path: string, method: string, body: object) {
      const answer = await fetch(`${gate.address}/api/v1${path}`, { method, body: JSON.stringify(body) })
      if (!answer.ok) throw new Error(await answer.text())
      return (await answer.json()) as Answer
    },
    async close() {
      await database.end()
      await gate.close()
    },
  }
}
