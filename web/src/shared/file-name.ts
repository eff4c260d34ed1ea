/** The name that a server gives a file that it sends (RFC 6266 clause 4.3: `filename*` goes before `filename`). */
export function nameInDisposition(header: string | null): string {
  const [, encoded] = /filename\*=UTF-8''([^;]+)/i.exec(header ?? '') ?? []
  if (encoded !== undefined) return decoded(encoded) ?? 'file'
  const [, quoted, plain] = /filename="((?:[^"\\]|\\.)*)"|filename=([^;]+)/i.exec(header ?? '') ?? []
  return quoted?.replace(/\\(.)/g, '$1') ?? plain?.trim() ?? 'file'
}

function decoded(text: string): string | null {
  try {
    return decodeURIComponent(text)
  } catch {
    return null
  }
}
