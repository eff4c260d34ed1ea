/** Files of what is dropped or pasted on a page. */

/** What a file list may hold that is no file: folders have no type and cannot be read. */
export interface Dropped {
  files: File[]
  /** What was among it that cannot be brought in. */
  refused: string[]
}

/** Files of what was dropped; folders, links and pieces of pages are named. */
export function droppedFiles({ items, files }: Pick<DataTransfer, 'items' | 'files'>): Dropped {
  const folders = [...items].flatMap((item) => {
    const entry = item.webkitGetAsEntry?.()
    return entry?.isDirectory ? [entry.name] : []
  })
  return { files: [...files].filter(({ name }) => !folders.includes(name)), refused: folders }
}

/** Cells that were copied anywhere, as a file. @returns null where the text is no table of at least two lines */
export function pastedFile(text: string): File | null {
  if (text.trim().split(/\r\n|\r|\n/).length < 2) return null
  return new File([text], 'Pasted cells.tsv', { type: 'text/plain' })
}
