/** `wanted`, or with the first number behind it that makes a name nobody has yet; case does not count. */
export function freeName(wanted: string, taken: readonly string[]): string {
  const used = new Set(taken.map((name) => name.toLowerCase()))
  let name = wanted
  for (let number = 2; used.has(name.toLowerCase()); number++) name = `${wanted} ${number}`
  return name
}
