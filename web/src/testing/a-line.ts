/** The line on which the page hears what moves, for tests. */
interface Line {
  url: string
  isClosed: boolean
  onmessage: ((event: { data: string }) => void) | null
  onclose: (() => void) | null
}

/** Takes the place of the browser's line. @returns every line that was opened, the last one last, and what says something on it or breaks it */
export function aLine() {
  const lines: Line[] = []
  Object.assign(globalThis, {
    location: { origin: 'http://127.0.0.1:4170' },
    WebSocket: class implements Line {
      isClosed = false
      onmessage: Line['onmessage'] = null
      onclose: Line['onclose'] = null
      constructor(readonly url: string) {
        lines.push(this)
      }
      close(): void {
        this.isClosed = true
      }
    },
  })
  return {
    lines,
    say: (move: unknown) => lines.at(-1)!.onmessage!({ data: JSON.stringify(move) }),
    break: () => lines.at(-1)!.onclose!(),
  }
}
