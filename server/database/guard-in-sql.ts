/** `guardText` of core/value/guarded-text, asked of the database. @param text an expression that costs nothing, as it is asked for again and again */
export function guardInSql(text: string): string {
  const figure = "E'^[-+]?[0-9][0-9.,'' \\u00a0\\u202f]*([eE][-+]?[0-9]+)?[ \\u00a0\\u202f]?%?$'"
  // Hardly any text begins with one of these signs, which is told by its first character's number.
  const mayBe = `ascii(${text}) in (${Array.from("'-=+@\t\r", (sign) => sign.charCodeAt(0)).join(', ')})`
  return `case when ${mayBe} and ${text} ~ E'^''*[-=+@\\t\\r]' and ${text} !~ ${figure} then '''' || ${text} else ${text} end`
}
