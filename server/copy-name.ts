/** The name of a copy: the first that is free, whatever its letters' case. */
export function copyName(name: string, taken: Iterable<string>): string {
  const folded = new Set([...taken].map((one) => one.toLowerCase()))
  const free = (number: number): string => {
    const copy = number === 1 ? `${name}, copy` : `${name}, copy ${number}`
    return folded.has(copy.toLowerCase()) ? free(number + 1) : copy
  }
  return free(1)
}
