/** Files on their way, as many as were chosen or dropped; none is lost on the way from page to page. */
import { defineStore } from 'pinia'
import { markRaw, shallowRef, triggerRef } from 'vue'
import { fileOnItsWay, type FileOnItsWay, type Target } from './file-on-its-way'
import { serverSteps } from './server-steps'

export interface Incoming {
  id: number
  way: FileOnItsWay
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
