/** Everything that can be asked of the server over HTTP: what goes in, and what comes out. Its description is made from this. */
import { MEDIA_TYPES, OUT_FORMATS } from '@dime-gate/interchange/table/out-formats'
import { z } from 'zod'
import { bindingChangeSchema, bindingSchema } from './binding'
import { changeAnswerSchema, changeRequestSchema, listingSchema, mergeAnswerSchema, mergeRequestSchema, recordHistorySchema, tableHistorySchema, tableSinceSchema } from './change'
import { knownConditionSchema } from './condition'
import { decideAnswerSchema, decideRequestSchema } from './decide'
import { deskSchema, workspaceChangeSchema, workspaceSchema } from './desk'
import { drawnPreviewRequestSchema, drawnPreviewSchema } from './drawn-preview'
import { comparisonSchema, movedRequestSchema, movedSchema, moveReasonsSchema, recordInRunSchema } from './comparison'
import { checkSchema, expectationRequestSchema, keptExpectationSchema } from './expectation'
import { foundRecordSchema } from './found'
import { draftChangeSchema, feedingGateSchema, gateSchema, newGateSchema, versionRequestSchema, versionSummarySchema } from './gate'
import { gateDocumentSchema } from './gate-document'
import { highlightChangeSchema, highlightListSchema } from './highlight'
import { actAnswerSchema, actRequestSchema, exceptionDetailSchema, exceptionListingSchema, exceptionRequestSchema, exceptionsSchema, overrideSchema, reviewSchema } from './review'
import { rollUpRequestSchema, totalsSchema } from './roll-up'
import { freshSchema, runAgainSchema, runChangeSchema, runRequestSchema, runSchema } from './run'
import { firstRecordsRequestSchema, listedRecordsSchema } from './run-records'
import { runSpreadSchema } from './run-spread'
import { runGroupsSchema } from './run-groups'
import { gateSentenceSchema, linkedGateSchema, linkedSlipSchema, linksSchema, MOST_SLIPS, sentenceChangeSchema, slipLinksRequestSchema, slipsRequestSchema, slipsSchema, tryLinkRequestSchema, withdrawalSchema } from './slip'
import { fileChoiceSchema, fileLookSchema, importRequestSchema, recordsRequestSchema, recordsSchema, stagedFileSchema, tableChangeSchema, tableProfileSchema, tableSchema } from './table'
import { waitSchema } from './wait'

export interface Operation {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete'
  /** Below the root of the API, with parameters in braces. */
  path: string
  about: string
  of: 'desk' | 'files' | 'tables' | 'gates' | 'runs' | 'review' | 'slips' | 'around'
  body?: z.ZodType
  /** JSON of this shape; or bytes of one of these media types; or with null nothing. */
  answer: z.ZodType | readonly string[] | null
  status?: number
  query?: Record<string, string>
  /** Whether an Idempotency-Key is heeded. */
  hasKey?: boolean
}

const ARROW = ['application/vnd.apache.arrow.stream']
const BYTES = ['application/octet-stream']
const AS_OF = { 'as-of': 'The day that counts as today, as ISO 8601 writes it; the workspace’s where it is left out.' }
const PDF = ['application/pdf']
const PAPER_QUERY = { without: 'Sections that are left out, parted by commas.', by: 'A column to tell the counts by.', part: 'Of dates: whole, year or month.', paper: 'a4 or letter.', zone: 'A time zone (IANA), as in Europe/Dublin.' }
const SLIPS_QUERY = { label: 'Those with this label alone.', records: 'Those of these records alone, by their numbers, parted by commas.', paper: 'a4 or letter.' }
const NOTHING = z.object({})
const FILE = OUT_FORMATS.map((format) => MEDIA_TYPES[format])

export const OPERATIONS: readonly Operation[] = [
  { method: 'post', path: '/gates/{id}/versions/{number}/decide', of: 'gates', about: 'Labels one record, or up to a thousand, by a version of a gate; with the why and the findings where they are asked for.', body: decideRequestSchema, answer: decideAnswerSchema },

  { method: 'get', path: '/desk', of: 'desk', about: 'All tables, gates and runs.', answer: deskSchema },
  { method: 'get', path: '/found', of: 'desk', about: 'Records of any table that are found by who they are.', query: { text: 'A part of what stands in an identity column.' }, answer: z.array(foundRecordSchema) },
  { method: 'get', path: '/workspace', of: 'desk', about: 'The day that counts as today.', answer: workspaceSchema },
  { method: 'put', path: '/workspace', of: 'desk', about: 'Sets that day, or follows the clock.', body: workspaceChangeSchema, answer: workspaceSchema },
  { method: 'get', path: '/conditions', of: 'desk', about: 'Named conditions, and the gates that carry them.', answer: z.array(knownConditionSchema) },
  { method: 'get', path: '/waits/{ticket}', of: 'around', about: 'Whether a file that was asked for under this ticket waits for others.', answer: waitSchema },
  { method: 'get', path: '/openapi.json', of: 'around', about: 'This description.', answer: z.looseObject({ openapi: z.string() }) },

  { method: 'post', path: '/files', of: 'files', about: 'Sends a file, as its bytes; it is kept for an hour.', query: { name: 'The file’s name.' }, answer: stagedFileSchema, status: 201 },
  { method: 'post', path: '/files/{id}/looks', of: 'files', about: 'How the file is read, what it holds, and what is odd about it. The answer may be preceded by lines that tell progress.', body: fileChoiceSchema, answer: fileLookSchema },
  { method: 'delete', path: '/files/{id}', of: 'files', about: 'Forgets the file.', answer: null, status: 204 },

  { method: 'post', path: '/tables', of: 'tables', about: 'Brings a file in as a table. The answer may be preceded by lines that tell progress.', body: importRequestSchema, answer: tableSchema, status: 201 },
  { method: 'get', path: '/tables/{id}', of: 'tables', about: 'A table and its columns.', answer: tableSchema },
  { method: 'patch', path: '/tables/{id}', of: 'tables', about: 'Renames it.', body: tableChangeSchema, answer: tableSchema },
  { method: 'delete', path: '/tables/{id}', of: 'tables', about: 'Removes it, where nothing stands on it.', answer: NOTHING },
  { method: 'post', path: '/tables/{id}/restoration', of: 'tables', about: 'Takes the removal back.', answer: NOTHING },
  { method: 'post', path: '/tables/{id}/copies', of: 'tables', about: 'Copies it.', answer: tableSchema, status: 201 },
  { method: 'get', path: '/tables/{id}/file.{format}', of: 'tables', about: `The table as a file: ${OUT_FORMATS.join(', ')}.`, query: { ticket: 'A word of one’s own, under which /waits tells whether it waits.' }, answer: FILE },
  { method: 'get', path: '/tables/{id}/profile', of: 'tables', about: 'By column how its values are spread.', answer: tableProfileSchema },
  { method: 'get', path: '/tables/{id}/columns/{column}', of: 'tables', about: 'A column, as an Arrow IPC stream.', query: AS_OF, answer: ARROW },
  { method: 'get', path: '/tables/{id}/since/{version}', of: 'tables', about: 'A table, and the records that were changed since one of its versions.', query: { ...AS_OF, figures: 'The table’s, as they were known in that version.' }, answer: tableSinceSchema },
  { method: 'post', path: '/tables/{id}/records', of: 'tables', about: 'Records by their numbers.', body: recordsRequestSchema, answer: recordsSchema },
  { method: 'post', path: '/tables/{id}/listings', of: 'tables', about: 'The numbers of the records that filters leave, sorted: 32-bit little-endian integers.', body: listingSchema, answer: BYTES },
  { method: 'get', path: '/tables/{id}/changes', of: 'tables', about: 'What was changed.', answer: tableHistorySchema },
  { method: 'post', path: '/tables/{id}/changes', of: 'tables', about: 'Changes values, records or columns.', body: changeRequestSchema, answer: changeAnswerSchema, hasKey: true },
  { method: 'post', path: '/tables/{id}/changes/{version}/undoing', of: 'tables', about: 'Takes a change back.', answer: changeAnswerSchema, hasKey: true },
  { method: 'get', path: '/tables/{id}/records/{record}/history', of: 'tables', about: 'What became of one record.', answer: recordHistorySchema },
  { method: 'post', path: '/tables/{id}/merges', of: 'tables', about: 'What a file would change in the table, or changes it. The answer may be preceded by lines that tell progress.', body: mergeRequestSchema, answer: mergeAnswerSchema },
  { method: 'post', path: '/tables/{id}/drawn-previews', of: 'tables', about: 'What a figure drawn from another table would come to.', body: drawnPreviewRequestSchema, answer: drawnPreviewSchema },
  { method: 'post', path: '/tables/{id}/roll-ups', of: 'tables', about: 'Makes a table of its groups.', body: rollUpRequestSchema, answer: tableSchema, status: 201 },
  { method: 'get', path: '/tables/{id}/totals', of: 'tables', about: 'The line of totals of a roll-up.', answer: totalsSchema },

  { method: 'post', path: '/gates', of: 'gates', about: 'A new gate, bound to a table where one is said.', body: newGateSchema, answer: gateSchema, status: 201 },
  { method: 'get', path: '/gates/{id}', of: 'gates', about: 'A gate, its draft and its last version.', answer: gateSchema },
  { method: 'delete', path: '/gates/{id}', of: 'gates', about: 'Removes it, where nothing stands on it.', answer: NOTHING },
  { method: 'post', path: '/gates/{id}/restoration', of: 'gates', about: 'Takes the removal back.', answer: NOTHING },
  { method: 'post', path: '/gates/{id}/copies', of: 'gates', about: 'Copies its draft to a gate of its own.', answer: gateSchema, status: 201 },
  { method: 'put', path: '/gates/{id}/draft', of: 'gates', about: 'Changes the draft; refused where it has changed since it was seen.', body: draftChangeSchema, answer: gateSchema },
  { method: 'get', path: '/gates/{id}/bindings', of: 'gates', about: 'The tables that it is bound to, the one bound last first.', answer: z.array(bindingSchema) },
  { method: 'get', path: '/gates/{id}/bindings/{table}', of: 'gates', about: 'What stands for its inputs in one table.', answer: bindingSchema },
  { method: 'put', path: '/gates/{id}/bindings/{table}', of: 'gates', about: 'Binds it to a table, or changes how it is.', body: bindingChangeSchema, answer: bindingSchema },
  { method: 'get', path: '/gates/{id}/feeding/{table}', of: 'gates', about: 'The gates whose outcomes it takes, as they are bound to the table.', answer: z.array(feedingGateSchema) },
  { method: 'get', path: '/gates/{id}/versions', of: 'gates', about: 'Its versions.', answer: z.array(versionSummarySchema) },
  { method: 'post', path: '/gates/{id}/versions', of: 'gates', about: 'Sets the draft as the next version.', body: versionRequestSchema, answer: gateSchema, status: 201 },
  { method: 'get', path: '/gates/{id}/versions/{number}', of: 'gates', about: 'The gate’s document as it was then.', answer: gateDocumentSchema },

  { method: 'get', path: '/gates/{id}/expectations', of: 'gates', about: 'What runs of it must come to.', answer: z.array(keptExpectationSchema) },
  { method: 'post', path: '/gates/{id}/expectations', of: 'gates', about: 'States what runs of it must come to, on one table or on any.', body: expectationRequestSchema, answer: z.array(keptExpectationSchema), status: 201 },
  { method: 'get', path: '/gates/{id}/highlights', of: 'gates', about: 'Conditions that are pointed out among what it gives, in order.', answer: highlightListSchema },
  { method: 'put', path: '/gates/{id}/highlights', of: 'gates', about: 'Puts others in their place.', body: highlightChangeSchema, answer: highlightListSchema },
  { method: 'delete', path: '/gates/{id}/expectations/{expectation}', of: 'gates', about: 'Expects it no longer.', answer: NOTHING },

  { method: 'post', path: '/runs', of: 'runs', about: 'Applies a version to a table, and keeps what comes of it.', body: runRequestSchema, answer: runSchema, status: 201 },
  { method: 'get', path: '/runs/{id}', of: 'runs', about: 'A run: how far it is, and its counts.', answer: runSchema },
  { method: 'patch', path: '/runs/{id}', of: 'runs', about: 'Names it.', body: runChangeSchema, answer: runSchema },
  { method: 'post', path: '/runs/{id}/again', of: 'runs', about: 'Applies what it was made of once more: all of it as it was, or as it is now.', body: runAgainSchema, answer: runSchema, status: 201 },
  { method: 'post', path: '/runs/{id}/draft', of: 'runs', about: 'Applies its gate’s draft to its table as both are now, to be compared with it: a run that is in no list and gone within hours.', answer: runSchema, status: 201 },
  { method: 'delete', path: '/runs/{id}', of: 'runs', about: 'Stops it, or removes it.', answer: NOTHING },
  { method: 'post', path: '/runs/{id}/restoration', of: 'runs', about: 'Takes the removal back.', answer: NOTHING },
  { method: 'get', path: '/runs/{id}/records', of: 'runs', about: 'What became of each record, as an Arrow IPC stream.', answer: ARROW },
  { method: 'post', path: '/runs/{id}/first-records', of: 'runs', about: 'The first records of one of its trays, each with what it got and why to look at it.', body: firstRecordsRequestSchema, answer: listedRecordsSchema },
  { method: 'get', path: '/runs/{id}/records/{record}/runs', of: 'runs', about: 'What one record got in the runs of its gate on its table, the latest first.', answer: z.array(recordInRunSchema) },
  { method: 'get', path: '/runs/{id}/columns/{column}', of: 'runs', about: 'A column as it was when the run was made, as an Arrow IPC stream.', answer: ARROW },
  { method: 'get', path: '/runs/{id}/columns/{column}/spread', of: 'runs', about: 'How the values that the run saw of a column of numbers are spread along a stretch: by bin its records.', query: { from: 'Where the first bin begins.', to: 'Where the last one ends.', bins: 'How many there are, all equally wide.' }, answer: runSpreadSchema },
  { method: 'get', path: '/runs/{id}/against/{other}/moved.{format}', of: 'runs', about: 'The records that moved between them, as a file.', query: { ticket: 'A word of one’s own, under which /waits tells whether it waits.' }, answer: FILE },
  { method: 'get', path: '/runs/{id}/fresh', of: 'runs', about: 'Whether it would come out the same if it were made now.', answer: freshSchema },
  { method: 'get', path: '/runs/{id}/checks', of: 'runs', about: 'What is expected of it, and what it comes to.', answer: z.array(checkSchema) },
  { method: 'get', path: '/runs/{id}/against/{other}', of: 'runs', about: 'What moved from this run to another one of the same table, and what the two were made of.', answer: comparisonSchema },
  { method: 'get', path: '/runs/{id}/against/{other}/reasons', of: 'runs', about: 'Why records moved between them.', answer: moveReasonsSchema },
  { method: 'post', path: '/runs/{id}/against/{other}/moved', of: 'runs', about: 'Records that moved between them, some at a time.', body: movedRequestSchema, answer: movedSchema },
  { method: 'get', path: '/runs/{id}/groups/{column}', of: 'runs', about: 'How the labels fall among the values of a column, as the run saw it.', query: { part: 'Of dates: whole, year or month.' }, answer: runGroupsSchema },
  { method: 'post', path: '/runs/{id}/listings', of: 'runs', about: 'The numbers of its records that filters leave, sorted: 32-bit little-endian integers.', body: listingSchema, answer: BYTES },
  { method: 'get', path: '/runs/{id}/labelled.{format}', of: 'runs', about: 'The labelled table as a file.', query: { ticket: 'A word of one’s own, under which /waits tells whether it waits.' }, answer: FILE },

  { method: 'get', path: '/runs/{id}/highlighted', of: 'runs', about: 'By highlight of its gate, in their order, how many of its records meet it.', answer: z.array(z.int()) },
  { method: 'get', path: '/runs/{id}/report.pdf', of: 'runs', about: 'Its report, as PDF; refused where the machine has nothing to print with.', query: PAPER_QUERY, answer: PDF },

  { method: 'post', path: '/runs/{id}/slips', of: 'slips', about: `What records of a run are told of themselves, up to ${MOST_SLIPS} at a time.`, body: slipsRequestSchema, answer: slipsSchema },
  { method: 'get', path: '/runs/{id}/slips.pdf', of: 'slips', about: 'The slips as one PDF, each on a page of its own; refused where the machine has nothing to print with.', query: SLIPS_QUERY, answer: PDF },
  { method: 'get', path: '/runs/{id}/slips.zip', of: 'slips', about: 'The slips as a PDF each, in a ZIP.', query: SLIPS_QUERY, answer: ['application/zip'] },
  { method: 'get', path: '/runs/{id}/links', of: 'slips', about: 'The links to slips of a run that are not withdrawn.', answer: linksSchema },
  { method: 'get', path: '/runs/{id}/links.csv', of: 'slips', about: 'The same as CSV: who, the label, the address.', answer: ['text/csv'] },
  { method: 'post', path: '/runs/{id}/links', of: 'slips', about: 'Makes links to slips; a record that has one keeps it, with the new end.', body: slipLinksRequestSchema, answer: linksSchema, status: 201 },
  { method: 'post', path: '/runs/{id}/links/withdrawal', of: 'slips', about: 'Withdraws links to slips: they lead nowhere from then on.', body: withdrawalSchema, answer: linksSchema },
  { method: 'get', path: '/gates/{id}/sentence', of: 'slips', about: 'What a gate says to each record on its slip.', answer: gateSentenceSchema },
  { method: 'put', path: '/gates/{id}/sentence', of: 'slips', about: 'Puts another in its place.', body: sentenceChangeSchema, answer: gateSentenceSchema },
  { method: 'get', path: '/gates/{id}/try-links', of: 'slips', about: 'The links by which a gate can be tried that are not withdrawn.', answer: linksSchema },
  { method: 'post', path: '/gates/{id}/try-links', of: 'slips', about: 'Makes one, for a version of it.', body: tryLinkRequestSchema, answer: linksSchema, status: 201 },
  { method: 'delete', path: '/gates/{id}/try-links/{link}', of: 'slips', about: 'Withdraws one.', answer: linksSchema },
  { method: 'get', path: '/slips/{token}', of: 'slips', about: 'The slip that a link leads to.', answer: linkedSlipSchema },
  { method: 'get', path: '/tries/{token}', of: 'slips', about: 'The gate that a link leads to.', answer: linkedGateSchema },

  { method: 'get', path: '/review/runs/{id}/overrides', of: 'review', about: 'What records of a run were given by hand, as far as that still holds.', answer: z.array(overrideSchema) },
  { method: 'get', path: '/review/gates/{id}/tables/{table}/overrides', of: 'review', about: 'What records of a table were given by hand in place of what a gate gives, as far as that held in its last run.', answer: z.array(overrideSchema) },
  { method: 'get', path: '/review', of: 'review', about: 'How many exceptions the last runs have, by kind and by what became of them.', answer: reviewSchema },
  { method: 'post', path: '/review/listings', of: 'review', about: 'Which there are, in order: whole numbers of 32 bits, the lowest byte first, three an exception: run, record, kind.', body: exceptionListingSchema, answer: BYTES },
  { method: 'post', path: '/review/exceptions', of: 'review', about: 'Some of them, with their reasons and what became of them.', body: exceptionRequestSchema, answer: exceptionsSchema },
  { method: 'get', path: '/review/runs/{id}/records/{record}', of: 'review', about: 'One of them, and how many are alike.', answer: exceptionDetailSchema },
  { method: 'post', path: '/review/acts', of: 'review', about: 'Settles or overrides one, or all that are alike; or notes that a value was corrected.', body: actRequestSchema, answer: actAnswerSchema, status: 201 },
  { method: 'delete', path: '/review/acts/{id}', of: 'review', about: 'Takes that back.', answer: actAnswerSchema },
]
