/** Files on their way, as many as were chosen or dropped; none is lost on the way from page to page. */
import { defineStore } from 'pinia'
import { markRaw, shallowRef, triggerRef } from 'vue'
import { fileOnItsWay, type FileOnItsWay, type Target } from './file-on-its-way'
import { serverSteps } from './server-steps'

export interface Incoming {
  id: number
  way: FileOnItsWay
}

/** What a file list may hold that is no file: folders have no type and cannot be read. */
export interface Dropped {
  files: File[]
  /** What was among it that cannot be brought in. */
  refused: string[]
}

export const useIncoming = defineStore('incoming', () => {
  const all = shallowRef<Incoming[]>([])
  let last = 0

  /** @param into the table that is looked at, which they most likely go into */
  function add(files: readonly File[], into: Target | null = null): void {
    for (const file of files) {
      const way = markRaw(fileOnItsWay(file, serverSteps, into))
      all.value.push({ id: ++last, way })
      void way.lookAgain()
    }
    triggerRef(all)
  }

  /** Lets go of one, whether it became a table or not. */
  function remove(id: number): void {
    all.value.find((one) => one.id === id)?.way.forget()
    all.value = all.value.filter((one) => one.id !== id)
  }

  return { all, add, remove }
})

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
