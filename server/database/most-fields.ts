/** An answer of the database has no more fields than these. Source: PostgreSQL's documentation, appendix K, "columns in a result set". */
export const MOST_FIELDS = 1664
