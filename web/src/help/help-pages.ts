/** The pages of help: the documents for users, as they lie beside the sources. */

export interface HelpPageHead {
  name: string
  title: string
  about: string
}

/** In the order in which somebody new would read them. */
export const HELP_PAGES: readonly HelpPageHead[] = [
  { name: 'using', title: 'Using Dime Gate', about: 'gates of every form, runs, review, reports' },
  { name: 'tables', title: 'Tables', about: 'in, corrected, and out again' },
  { name: 'figures', title: 'Figures', about: 'columns that are computed, sets, what comes from other tables' },
  { name: 'statuses-and-findings', title: 'Statuses and findings', about: 'what becomes of a record, what is known before any data' },
  { name: 'expressions', title: 'Expressions', about: 'FEEL, as it is written here' },
  { name: 'conditionals-and-charts', title: 'Conditionals and charts', about: 'what people already have' },
  { name: 'dmn', title: 'DMN', about: 'decision tables, in and out' },
  { name: 'sql', title: 'SQL', about: 'a gate inside a database' },
  { name: 'openformula', title: 'OpenFormula', about: 'a gate in a spreadsheet' },
  { name: 'http', title: 'Over HTTP', about: 'a label for a record, asked for by a program' },
  { name: 'command-line', title: 'The command line', about: 'files in, files out' },
  { name: 'promises', title: 'What is promised', about: 'what happens when something breaks' },
]

/** A heading as the end of an address. */
export function anchorOf(heading: string): string {
  return heading.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '')
}

/** Where a link in a document leads: to a page of help, or null where it leads out of them. */
export function helpAddress(link: string): string | null {
  const [, name, anchor] = /^([\w-]+)\.md(?:#(.*))?$/.exec(link) ?? []
  if (!HELP_PAGES.some((page) => page.name === name)) return null
  return `/help/${name}${anchor ? `#${anchor}` : ''}`
}
