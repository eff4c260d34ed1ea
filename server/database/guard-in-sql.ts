/** `guardText` of core/value/guarded-text, asked of the database. @param text an expression */
export function guardInSql(text: string): string {
  const figure = "E'^[-+]?[0-9][0-9.,'' \\u00a0\\u202f]*([eE][-+]?[0-9]+)?[ \\u00a0\\u202f]?%?$'"
  return `case when left(${text}, 1) in ('''', '-', '=', '+', '@', E'\\t', E'\\r') and ${text} ~ E'^''*[-=+@\\t\\r]' and ${text} !~ ${figure} then '''' || ${text} else ${text} end`
}
