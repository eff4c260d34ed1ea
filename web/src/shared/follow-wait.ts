/** Tells whoever asked for a file that it waits, as long as it does. */

/** Milliseconds between two looks. */
const PAUSE = 600

/**
 * @param isWaiting looks whether it still does
 * @param told is called once where it waits, and once more when it no longer does
 */
export async function followWait(isWaiting: () => Promise<boolean>, told: (isWaiting: boolean) => void, pause = PAUSE): Promise<void> {
  let did = false
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, pause))
    // A server that is away tells so by itself.
    const does = await isWaiting().catch(() => false)
    if (does !== did) told(does)
    if (!does) return
    did = true
  }
}
