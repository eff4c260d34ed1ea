/** What takes longer than an answer may, and is done beside them. */
import { Answers } from './answer/answers'
import { ChangeTeller } from './change/tell-changes'
import { type Database, openDatabase } from './database/database'
import { Comparisons } from './comparison/comparisons'
import { Freshness } from './comparison/freshness'
import { RunChecks } from './expectation/check-run'
import { Decisions } from './gate/decisions'
import { Figures } from './figure/figures'
import { Files } from './file/files'
import { LastRuns } from './last-runs'
import { Printer } from './paper/printer'
import { Reviews } from './review/reviews'
import { RunJobs } from './run/run-jobs'

export class Jobs {
  readonly runs: RunJobs
  readonly files: Files
  readonly answers: Answers
  readonly figures: Figures
  readonly decisions: Decisions
  readonly changes: ChangeTeller
  readonly checks: RunChecks
  readonly comparisons: Comparisons
  readonly freshness: Freshness
  readonly lastRuns: LastRuns
  readonly reviews: Reviews
  readonly printer = new Printer()
  /** Connections for long questions: while many are under way, further ones wait, and short ones do not. */
  readonly slow: Database

  private closed: Promise<unknown> | null = null

  /** @param url of the database, for the threads' own connections */
  constructor(database: Database, url: string) {
    this.runs = new RunJobs(database, url)
    this.files = new Files(url)
    this.answers = new Answers(url)
    this.figures = new Figures(database, url)
    this.decisions = new Decisions(database, url)
    this.changes = new ChangeTeller(url)
    this.slow = openDatabase(url, { waits: true })
    this.checks = new RunChecks(this.slow)
    this.comparisons = new Comparisons(this.slow, url)
    this.freshness = new Freshness(database, url)
    this.lastRuns = new LastRuns(database, this)
    this.reviews = new Reviews(this.slow, this.runs, url)
  }

  /** Breaks off what is under way; nothing half-made of it stays. */
  close(): Promise<unknown> {
    return (this.closed ??= Promise.all([this.runs.close(), this.files.close(), this.answers.close(), this.figures.close(), this.decisions.close(), this.comparisons.close(), this.freshness.close(), this.reviews.close(), this.printer.close(), this.changes.close(), this.slow.end()]))
  }
}
