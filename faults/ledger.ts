/** What clients were told, and what they asked for without being told what came of it. */
export interface KnownTable {
  name: string
  records: number
  /** By record, what its first column was corrected to. */
  corrected: Map<number, KnownText>
}

export interface KnownText {
  text: string
  /** One that was sent without an answer. */
  maybe: string | null
}

/** What stands in the first column of a record that nobody corrected. */
export function treeOf(record: number): string {
  return `T${record}`
}

export interface KnownGate {
  tableId: number
  /** Where the cut of version 1 is. */
  first: number
  draftVersion: number
  cut: number
  /** A cut that was sent without an answer. */
  maybe: number | null
}

export interface KnownRun {
  gateId: number
}

export class Ledger {
  readonly tables = new Map<number, KnownTable>()
  /** By name, the records of tables that were sent without an answer: they may be there, whole. */
  readonly maybeTables = new Map<string, number>()
  readonly gates = new Map<number, KnownGate>()
  readonly runs = new Map<number, KnownRun>()
  readonly problems: string[] = []
  operations = 0
  checks = 0

  check(isSo: boolean, what: () => string): void {
    this.checks++
    if (!isSo) this.problems.push(what())
  }
}

/** The value of a record, from 1, in every table. */
export function valueOf(record: number): number {
  return (record * 7) % 100
}

/** Of so many records, those below a cut. */
export function below(records: number, cut: number): number {
  let count = 0
  for (let record = 1; record <= records; record++) if (valueOf(record) < cut) count++
  return count
}
