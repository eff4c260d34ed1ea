/** Texts that are no conditions yet: the page keeps them, also through a reload, until they are conditions or are let go. */
import { reactive, watch } from 'vue'

type Kept = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>

/** @param of what the texts belong to, as in `gate 3`. @returns by rule's place, or by a named condition's id */
export function useUnfinished(of: string, storage: Kept = sessionStorage): Map<number | string, string> {
  const name = `dime-gate.unfinished.${of}`
  const all = reactive(new Map<number | string, string>(stored(storage.getItem(name))))
  watch(all, () => {
    if (all.size === 0) storage.removeItem(name)
    else storage.setItem(name, JSON.stringify([...all]))
  })
  return all
}

function stored(text: string | null): [number | string, string][] {
  try {
    const found: unknown = JSON.parse(text ?? '[]')
    return Array.isArray(found) ? found.filter(isPair) : []
  } catch {
    return []
  }
}

function isPair(one: unknown): one is [number | string, string] {
  return Array.isArray(one) && one.length === 2 && ['number', 'string'].includes(typeof one[0]) && typeof one[1] === 'string'
}
