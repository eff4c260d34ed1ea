/** What is chosen on a run's page, as it stands in its address: so that it can be sent, and comes back with a reload. */
import type { Listing } from '@dime-gate/contract/change'
import { KEY_PARTS, type KeyPart } from '@dime-gate/contract/drawn'
import { ownTraySchema } from '@dime-gate/contract/run-records'
import type { Tray } from '@dime-gate/core/result/tray'
import { z } from 'zod'
import { listingOf, listingText } from '../listing/listing'
import type { GroupSort } from './by-group'

export interface RunChoice {
  tray: Tray
  listing: Listing
  /** The column that records are grouped by; null where none was chosen. */
  by: number | null
  part: KeyPart
  /** The key of the part whose shares are told; null for the first. */
  of: string | null
  sort: GroupSort
  shows: RunView
}

export const RUN_VIEWS = ['groups', 'figures', 'decided', 'tables'] as const
/** Groups as bars, or in figures; how the gate decided; or other tables beside this one. */
export type RunView = (typeof RUN_VIEWS)[number]

export const FIRST: RunChoice = { tray: { kind: 'exceptions' }, listing: { filters: [], sorts: [] }, by: null, part: 'whole', of: null, sort: { by: 'value', direction: 'rising' }, shows: 'groups' }

const traySchema = z.union([
  ownTraySchema,
  z.strictObject({ kind: z.literal('highlighted'), name: z.string() }),
  z.strictObject({ kind: z.literal('nearest'), label: z.string(), isLosing: z.boolean(), most: z.int().nonnegative() }),
]) satisfies z.ZodType<Tray>
const sortSchema = z.tuple([z.enum(['value', 'records', 'share']), z.enum(['rising', 'falling'])])

const idSchema = z.coerce.number().int().positive().nullable()

type Query = Record<string, unknown>

/** Only what is not as it is at first stands in the address. */
export function queryOf({ tray, listing, by, part, of, sort, shows }: RunChoice): Record<string, string> {
  const list = listingText(listing)
  return {
    ...(tray.kind === FIRST.tray.kind ? {} : { tray: JSON.stringify(tray) }),
    ...(list === null ? {} : { list }),
    ...(by === null ? {} : { by: String(by) }),
    ...(part === FIRST.part ? {} : { part }),
    ...(of === null ? {} : { of }),
    ...(sort.by === FIRST.sort.by && sort.direction === FIRST.sort.direction ? {} : { sort: `${sort.by} ${sort.direction}` }),
    ...(shows === FIRST.shows ? {} : { shows }),
  }
}

/** What cannot be read is as it is at first. */
export function choiceOf(query: Query): RunChoice {
  const text = (name: string) => (typeof query[name] === 'string' ? query[name] : null)
  const read = <Value>(schema: z.ZodType<Value>, value: unknown, first: Value): Value => schema.safeParse(value).data ?? first
  const [sortBy, direction] = read(sortSchema, (text('sort') ?? '').split(' '), [FIRST.sort.by, FIRST.sort.direction])
  return {
    tray: read(traySchema, jsonOf(text('tray')), FIRST.tray),
    listing: listingOf(text('list')),
    by: read(idSchema, text('by'), null),
    part: read(z.enum(KEY_PARTS), text('part'), FIRST.part),
    of: text('of'),
    sort: { by: sortBy, direction },
    shows: read(z.enum(RUN_VIEWS), text('shows'), FIRST.shows),
  }
}

function jsonOf(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null')
  } catch {
    return null
  }
}
