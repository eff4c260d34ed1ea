/** The product as it runs, and the ways in which it is hurt. */
import type { ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import pg from 'pg'
import { API } from '@dime-gate/contract/api'
import { freePort } from '../tools/free-port'
import { startServer, stopServer } from '../tools/server-process'

export interface Answer<Body> {
  /** 0 where there was no answer. */
  status: number
  body: Body
}

/** That connections break is what is wanted here. */
const QUIET = { DEMO: 'off', LOG_LEVEL: 'error' }

/** Milliseconds within which the product has to be back after whatever happened to it. */
const BACK_WITHIN = 60_000
/** Milliseconds within which it has to have ended once it is asked to. */
const ENDED_WITHIN = 10_000

export class World {
  /** One connection of the test's own, to another database of the same server. */
  private constructor(readonly url: string, readonly port: number, private server: ChildProcess) {}

  /** @param url of a database of its own */
  static async start(url: string): Promise<World> {
    const port = await freePort()
    return new World(url, port, await startServer(url, port, QUIET))
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`
  }

  async ask<Body>(method: string, path: string, body?: unknown): Promise<Answer<Body>> {
    try {
      const response = await fetch(`${this.address}${API}${path}`, { method, body: typeof body === 'string' ? body : body === undefined ? undefined : JSON.stringify(body) })
      return { status: response.status, body: (await response.json()) as Body }
    } catch {
      return { status: 0, body: null as Body }
    }
  }

  /** @throws Error where it does not come back */
  async back(): Promise<void> {
    const until = Date.now() + BACK_WITHIN
    while (Date.now() < until) {
      if (await fetch(`${this.address}/ready`).then(({ ok }) => ok, () => false)) return
      if (this.server.exitCode !== null || this.server.signalCode !== null) throw new Error('the server has ended')
      await pause(100)
    }
    throw new Error(`the product was not back within ${BACK_WITHIN / 1000} s`)
  }

  async killServer(): Promise<void> {
    const gone = once(this.server, 'exit')
    this.server.kill('SIGKILL')
    await gone
    this.server = await startServer(this.url, this.port, QUIET)
  }

  async freezeServer(milliseconds: number): Promise<void> {
    this.server.kill('SIGSTOP')
    await pause(milliseconds)
    this.server.kill('SIGCONT')
  }

  /** Asks the server to end, whatever is under way. @throws Error where it does not end well, and in time */
  async endServer(): Promise<void> {
    const gone = once(this.server, 'exit')
    this.server.kill('SIGTERM')
    const ended = (await Promise.race([gone, pause(ENDED_WITHIN)])) as [number | null] | undefined
    if (ended?.[0] !== 0) throw new Error(ended ? `the server ended with ${ended[0]}` : `the server did not end within ${ENDED_WITHIN / 1000} s`)
    this.server = await startServer(this.url, this.port, QUIET)
  }

  /** Two servers on one database: a second one comes, stays for a while, and goes. */
  async startAnother(milliseconds: number): Promise<void> {
    const another = await startServer(this.url, await freePort(), QUIET)
    await pause(milliseconds)
    await stopServer(another)
  }

  stop(): Promise<void> {
    return stopServer(this.server)
  }

  /** Asks the database's server, beside the product. */
  async sql<Row extends object>(text: string, values: unknown[] = [], isOfProduct = true): Promise<Row[]> {
    const client = new pg.Client(isOfProduct ? this.url : this.url.replace(/\/[^/]*$/, '/postgres'))
    client.on('error', () => undefined)
    await client.connect()
    try {
      return (await client.query<Row>(text, values)).rows
    } finally {
      await client.end().catch(() => undefined)
    }
  }

  private get name(): string {
    return new URL(this.url).pathname.slice(1)
  }

  async breakConnections(): Promise<void> {
    await this.sql('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [this.name], false)
  }

  async refuseConnections(milliseconds: number): Promise<void> {
    await this.sql(`alter database ${this.name} allow_connections false`, [], false)
    await this.breakConnections()
    await pause(milliseconds)
    await this.sql(`alter database ${this.name} allow_connections true`, [], false)
  }
}

export function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds))
}
