/** Whatever is done in threads beside the one that answers requests. */
import type { Database } from './database/database'
import { RunJobs } from './run/run-jobs'
import { Imports } from './table/imports'

export class Jobs {
  readonly runs: RunJobs
  readonly imports: Imports

  /** @param url of the database, for the threads' own connections */
  constructor(database: Database, url: string) {
    this.runs = new RunJobs(database, url)
    this.imports = new Imports(url)
  }

  /** Breaks off what is under way; nothing half-made of it stays. */
  async close(): Promise<void> {
    await Promise.all([this.runs.close(), this.imports.close()])
  }
}
