import { dateSchema } from '@dime-gate/contract/run'

/** A date said in the address; what is said there that is no date says nothing. */
export function ownDate(text: unknown): string | null {
  return dateSchema.safeParse(text).data ?? null
}
