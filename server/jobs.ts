/** What takes longer than an answer may, and is done beside them. */
import { type Database, openDatabase } from './database/database'
import { RunJobs } from './run/run-jobs'
import { Imports } from './table/imports'

export class Jobs {
  readonly runs: RunJobs
  readonly imports: Imports
  /** Connections for long answers: while many are under way, further ones wait, and short ones do not. */
  readonly streams: Database

  private closed: Promise<unknown> | null = null

  /** @param url of the database, for the threads' own connections */
  constructor(database: Database, url: string) {
    this.runs = new RunJobs(database, url)
    this.imports = new Imports(url)
    this.streams = openDatabase(url, { waits: true })
  }

  /** Breaks off what is under way; nothing half-made of it stays. */
  close(): Promise<unknown> {
    return (this.closed ??= Promise.all([this.runs.close(), this.imports.close(), this.streams.end()]))
  }
}
