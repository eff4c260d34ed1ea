/** The files in a ZIP, by their names, in its order. */
import { fromBuffer } from 'yauzl'

export function openZip(bytes: Buffer): Promise<Map<string, Buffer>> {
  return new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error)
      const files = new Map<string, Buffer>()
      zip.on('end', () => resolve(files)).on('error', reject)
      zip.on('entry', (entry) => zip.openReadStream(entry, (failed, stream) => {
        if (failed) return reject(failed)
        const parts: Buffer[] = []
        stream.on('data', (part: Buffer) => parts.push(part)).on('end', () => {
          files.set(entry.fileName, Buffer.concat(parts))
          zip.readEntry()
        })
      }))
      zip.readEntry()
    })
  })
}
