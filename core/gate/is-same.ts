/** Whether two documents say the same, whatever the order of their keys. */
export function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b
  const keys = Object.keys(a)
  return keys.length === Object.keys(b).length && keys.every((key) => isSame(a[key as keyof typeof a], b[key as keyof typeof b]))
}
