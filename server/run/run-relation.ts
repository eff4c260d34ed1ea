/** Where what a run gave lies: a relation of its own, named by its id alone. */

export function runRelation(runId: number): string {
  if (!Number.isSafeInteger(runId)) throw new TypeError(`not an id: ${runId}`)
  return `runs.r${runId}`
}

/** Rows are written in this order. Its key comes once they are there: that is quicker than to look after it row by row. */
export const RUN_COLUMNS = ['record', 'status', 'rule', 'o1', 'i1', 'u1'] as const

export function createRunRelation(runId: number): string {
  return `create table ${runRelation(runId)} (record integer not null, status smallint not null, rule integer, o1 text, i1 numeric, u1 text)`
}

export function keyRunRelation(runId: number): string {
  return `alter table ${runRelation(runId)} add primary key (record)`
}
