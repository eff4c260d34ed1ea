/** The last few of what was worked out, by all that it hangs on. */
export class Remembered<Made> {
  private readonly known = new Map<string, Made>()

  constructor(private readonly most: number) {}

  /** @param make is asked where nothing is known by the key any more */
  of(key: string, make: () => Made): Made {
    const made = this.known.has(key) ? this.known.get(key)! : make()
    this.known.delete(key)
    this.known.set(key, made)
    const [oldest] = this.known.keys()
    if (this.known.size > this.most) this.known.delete(oldest!)
    return made
  }
}
