/** Requests that cannot be done, for reasons that the person who made them can act on: all the words for them are here. */
import type { Problem } from '@dime-gate/contract/problem'

export class Refusal extends Error {
  readonly problem: Problem

  constructor(readonly status: number, code: Problem['code'], message: string) {
    super(message)
    this.problem = { code, message }
  }
}

const malformed = (code: Problem['code'], message: string, status = 400) => new Refusal(status, code, message)
const conflict = (code: Problem['code'], message: string) => new Refusal(409, code, message)
const unprocessable = (code: Problem['code'], message: string) => new Refusal(422, code, message)

const NOT_STORED = {
  full: () => malformed('disk-full', 'The disk of the database is full. Nothing was stored; make room, then try again.', 507),
  wide: () => unprocessable('too-wide', 'A record has more text than the database can hold in one row. Nothing was stored; leave out columns of long texts, or split the table.'),
  value: (message: string) => malformed('malformed', `The request holds a value that cannot be stored: ${message}.`),
}

export const refusals = {
  notFound: (what: string) => malformed('not-found', `There is no such ${what}. It may have been removed; go back to the desk.`, 404),
  nothingAt: (path: string) => malformed('not-found', `There is nothing at ${path}.`, 404),
  notJson: (what: string) => malformed('not-json', `The ${what} is not JSON text.`),
  malformed: (why: string) => malformed('malformed', `The request is not as it should be: ${why}`),
  tooLong: (most: number) => malformed('too-long', `The request is longer than ${most} bytes.`, 413),
  cutOff: () => malformed('cut-off', 'The file did not arrive in whole. Nothing was imported; send it again.'),
  fileGone: () => malformed('file-gone', 'The file is not here any more: it lay for an hour, or the program was started anew. Choose it again.', 404),
  tooLarge: (most: number) => malformed('too-large', `The file is larger than ${most / 1_000_000_000} GB. Split it, and append the parts to one table.`, 413),
  tooManyForSheet: (records: number, most: number) => unprocessable('too-large', `The table has ${records} records, and a sheet holds ${most}. Take it as CSV, JSON Lines or Arrow.`),
  tooManyFiles: (most: number) => malformed('too-many-files', `There are ${most} files waiting to become tables already. Bring some of them in, or close their windows, and try again.`, 503),
  noRoom: () => malformed('disk-full', 'There is no room left for files on their way in or out. Make room in the folder for temporary files, then try again.', 507),
  otherSite: () => malformed('other-site', 'Dime Gate answers only pages of its own, opened on this machine.', 403),
  databaseAway: () => malformed('database-away', 'The database does not answer at present. What was kept is there; this page goes on once it is back.', 503),
  notStored: (why: 'full' | 'wide' | 'value', message: string) => NOT_STORED[why](message),
  failed: (request: string) => malformed('failed', `Something went wrong in the program, and nothing was changed. Try again; if it stays, look into the log of the start command for request ${request}.`, 500),

  noPrinter: () => malformed('no-printer', 'This machine has no Chromium that could make a PDF (Debian’s package is called chromium). Print the page from your browser, and choose “Save as PDF” there.', 501),
  printerFails: (why: string) => malformed('no-printer', `Chromium does not start on this machine, so it cannot make a PDF: ${why} Print the page from your browser, and choose “Save as PDF” there.`, 501),
  notPrinted: (why: string) => malformed('not-printed', `The page could not be printed. ${why}`, 502),

  staleDraft: (gate: string, changes: number) => conflict('stale', `“${gate}” was changed elsewhere, ${changes === 1 ? 'once' : `${changes} times`}, since this page last saw it.`),
  reviewedMeanwhile: (what: string | null) => conflict('stale', `${what ? `Somebody else was first: it was ${what}.` : 'Somebody else did something to this exception meanwhile.'} It is shown now as it is; what you wrote is still there.`),
  correctedMeanwhile: (column: string) => conflict('stale', `“${column}” was changed elsewhere since this page last saw it, so it was not written over. It is shown now as it is; what you wrote is still there.`),
  ranAgain: (number: number, later: number) => conflict('stale', `Run ${number} was followed by run ${later} meanwhile. Its exceptions are shown now; what you wrote is still there.`),
  staleHighlights: (gate: string) => conflict('stale', `The highlights of “${gate}” were changed elsewhere since this page last saw them. They are shown now as they are; say it again.`),
  staleSentence: (gate: string) => conflict('stale', `What “${gate}” says on its slips was changed elsewhere since this page last saw it. It is shown now as it is; say it again.`),
  tooManySlips: (total: number, most: number) => unprocessable('too-large', `These are ${total} slips, and ${most} can be made at a time. Choose those of one label, or some records.`),
  noSlips: () => malformed('not-found', 'No record of this run is so, so there is no slip to make. Choose another label, or all records.', 404),
  endsInThePast: () => unprocessable('malformed', 'A link cannot end before today. Choose a later day.'),
  linkLeadsNowhere: () => malformed('not-found', 'This link leads nowhere. It has ended, was withdrawn, or was not copied in whole; ask whoever gave it to you.', 404),
  staleBinding: (gate: string) => conflict('stale', `What “${gate}” looks at in this table was changed elsewhere since this page last saw it.`),
  staleForRun: (gate: string, table: string) => conflict('stale', `What “${gate}” looks at in “${table}” was changed since this page last saw it. Look at it again, then keep the run.`),
  staleFeeding: (gate: string, feeding: string) => conflict('stale', `“${feeding}”, which feeds “${gate}”, was changed since this page last saw it. Look at the counts again, then keep the run.`),
  nameTaken: (kind: 'gate' | 'table', name: string) => conflict('name-taken', `There is already a ${kind} named “${name}”. Give this one another name.`),
  nameTakenMeanwhile: (kind: string) => conflict('name-taken', `Another ${kind} has its name by now. Rename that one, then take this one back.`),
  columnTaken: (name: string) => conflict('name-taken', `There is already a column named “${name}” in this table. Give this one another name.`),
  lookedAt: (column: string, gates: readonly string[]) => conflict('stood-on', `“${column}” is looked at by ${gates.map((name) => `“${name}”`).join(', ')}. Bind ${gates.length === 1 ? 'that gate' : 'those gates'} to another column first.`),
  usedByFigures: (column: string, figures: readonly string[]) => conflict('stood-on', `“${column}” is needed by the ${figures.length === 1 ? 'figure' : 'figures'} ${figures.map((name) => `“${name}”`).join(', ')}. Change ${figures.length === 1 ? 'that' : 'those'} first.`),
  notAFigure: (name: string, why: string) => unprocessable('not-a-figure', `“${name}” could not be computed. ${why}`),
  computed: (name: string) => unprocessable('computed', `“${name}” is computed. Correct what it comes from, or change how it is computed.`),
  formerName: (name: string, now: string) => conflict('name-taken', `“${name}” was the name of “${now}”, and versions of gates that it feeds know it by that. Choose another name.`),
  groupsFollow: (table: string) => unprocessable('computed', `The records of “${table}” are groups of another table, and follow what stands there. Correct them there; other columns of this table can be typed into.`),
  lastColumn: (name: string) => conflict('stood-on', `“${name}” is the table’s last column. Remove the table instead.`),
  ambiguous: (records: number, examples: readonly string[]) => unprocessable('ambiguous', `${records} records of the file cannot be told from others: ${examples.map((who) => `“${who}”`).join(', ')}. Say with more columns who a record is, or mend the file.`),
  changedSince: () => conflict('stale', 'What this change met was changed again since, so it cannot be taken back by itself. Look at the table’s history.'),
  notComputedYet: () => conflict('stale', 'The figures of this table are being computed anew, so nobody knows yet which records are meant. Try again in a moment.'),
  conditionTaken: (name: string, gate: string) => conflict('name-taken', `There is already a condition named “${name}”, in the gate “${gate}”. Use that one, or give this one another name.`),
  conditionMoved: (name: string, gate: string) => conflict('name-taken', `“${name}” says something else by now, in the gate “${gate}”. Take it out here, then take it from there again.`),
  conditionDoesNotFit: (name: string, gate: string, why: string) => unprocessable('cannot-decide', `What “${name}” says now does not go with the gate “${gate}”, which uses it too. ${why}`),
  noSuchInput: (name: string, at: number, known: readonly string[]) => malformed('malformed', `The gate has no input “${name}”, which record ${at + 1} gives. It has: ${known.join(', ')}.`),
  nothingNew: (version: number) => conflict('nothing-new', `The draft is the same as version ${version}; there is nothing new to set.`),
  stoodOn: (kind: string, by: string, isOne: boolean) => conflict('stood-on', `This ${kind} is needed by ${by}. Remove ${isOne ? 'that' : 'those'} first.`),
  tooManyExpectations: (most: number) => unprocessable('too-large', `A gate has ${most} expectations at most. Take some of them away first.`),
  ofTwoTables: (one: string, other: string) => unprocessable('cannot-decide', `One run is of “${one}”, the other of “${other}”: they have no record in common. Choose two of one table.`),
  tooManyGroups: (column: string, most: number) => unprocessable('too-large', `“${column}” has more than ${most} different values. Choose a column that has fewer.`),
  notDone: (problem: string | null) => conflict('not-done', problem ?? 'This run is still under way. Try again when it is done.'),

  noSuchColumn: (input: string) => unprocessable('no-such-column', `The table does not have the column that stands for “${input}”. Choose another.`),
  noSuchSet: (set: string) => unprocessable('no-such-column', `The table has no column set named “${set}”. Choose another, or make it on the table’s page.`),
  wrongType: (column: string, holds: string, input: string, asks: string) => unprocessable('wrong-type', `“${column}” holds ${holds} values, and “${input}” asks for ${asks}. Choose another column.`),
  wrongCount: (input: string, isSet: boolean) => unprocessable('wrong-type', `“${input}” ${isSet ? 'is a column set, and one column' : 'is one column, and a set of columns'} stands for it. Choose again.`),
  notBound: (gate: string, input: string, table: string) => unprocessable('not-bound', `This version of “${gate}” looks at “${input}”, and no column of “${table}” stands for that. Bind it, or set a new version.`),
  noVersion: (gate: string, feeding: string) => unprocessable('no-version', `“${gate}” takes what “${feeding}” gives, and no version of that is set yet. Set one first.`),
  cannotDecide: (why: string, path: string) => unprocessable('cannot-decide', path ? `${why} (In ${path}.)` : why),
  cannotDecideNow: (gate: string) => unprocessable('cannot-decide', `“${gate}” cannot decide with the gates that feed it as they are now. Look at it on its bench.`),
}
