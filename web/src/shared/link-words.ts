/** Links that are handed out: until when, and onto the clipboard. */
import { useNotices } from './notices'

/** A day so many days from now, by the clock (ISO 8601). */
export function dayFromNow(days: number, now = Date.now()): string {
  return new Date(now + days * 86_400_000).toISOString().slice(0, 10)
}

export function isOver(day: string, now = Date.now()): boolean {
  return day < dayFromNow(0, now)
}

export function useCopying(): (address: string) => Promise<void> {
  const notices = useNotices()
  return async (address) => {
    try {
      await navigator.clipboard.writeText(address)
      notices.say('The link is on the clipboard.')
    } catch {
      notices.warn(`This browser does not let the page write to the clipboard. The link is ${address}`)
    }
  }
}
