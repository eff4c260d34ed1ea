/** What a report shows, as it stands in its address. */
import { KEY_PARTS, type KeyPart } from '@dime-gate/contract/drawn'
import { z } from 'zod'

export const SECTIONS = ['decided', 'counts', 'groups', 'expected', 'highlights', 'exceptions', 'by hand', 'provenance'] as const
export type Section = (typeof SECTIONS)[number]

export const SECTION_WORDS: Record<Section, string> = {
  decided: 'How it was decided', counts: 'Counts', groups: 'By group', expected: 'What was expected', highlights: 'Pointed out', exceptions: 'Exceptions', 'by hand': 'Given by hand', provenance: 'Where it comes from',
}

export const PAPERS = ['a4', 'letter'] as const
export type Paper = (typeof PAPERS)[number]

export interface ReportAddress {
  /** Those that are left out. */
  without: Section[]
  /** The column that is grouped by; null for none. */
  by: number | null
  part: KeyPart
  /** What the server prints on; browsers ask for themselves. */
  paper: Paper
}

/** Only what is not as it is at first stands in the address. */
export function queryOf({ without, by, part, paper }: ReportAddress): Record<string, string> {
  return {
    ...(without.length === 0 ? {} : { without: SECTIONS.filter((one) => without.includes(one)).join(',') }),
    ...(by === null ? {} : { by: String(by) }),
    ...(part === 'whole' ? {} : { part }),
    ...(paper === 'a4' ? {} : { paper }),
  }
}

/** What cannot be read is as it is at first. */
export function addressOf(query: Record<string, unknown>): ReportAddress {
  const without = typeof query.without === 'string' ? query.without.split(',') : []
  return {
    without: SECTIONS.filter((one) => without.includes(one)),
    by: z.coerce.number().int().positive().nullable().catch(null).parse(query.by ?? null),
    part: z.enum(KEY_PARTS).catch('whole').parse(query.part),
    paper: z.enum(PAPERS).catch('a4').parse(query.paper),
  }
}
