/** What a folding match list does to white space: FEEL's patterns, and PostgreSQL's for the same characters. */
export const FOLDING: readonly { feel: string; sql: { pattern: string; by: string } }[] = [
  { feel: '^\\s+|\\s+$', sql: { pattern: '^[ \\t\\n\\r]+|[ \\t\\n\\r]+$', by: '' } },
  { feel: '\\s+', sql: { pattern: '[ \\t\\n\\r]+', by: ' ' } },
]
