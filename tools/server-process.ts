/** The built server as a process: how it is started, told to end, and waited for. */
import { type ChildProcess, spawn } from 'node:child_process'

/** Megabytes for what has just been made: many small answers in a second come and go without a pause for each few of them. */
const NEW_SPACE = 64
const FLAGS = ['--enable-source-maps', `--max-semi-space-size=${NEW_SPACE}`]

/** @returns once it answers. @throws Error where it ends instead; it has then said why */
export async function startServer(url: string, port: number, settings: Record<string, string> = {}): Promise<ChildProcess> {
  const server = spawn(process.execPath, [...FLAGS, 'build/server.mjs'], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...settings, DATABASE_URL: url, PORT: String(port) },
    // A Ctrl-C in the terminal is for the program that started it, which then ends it in good order.
    detached: true,
  })
  await new Promise<void>((ready, failed) =>
    server.once('message', () => ready()).once('exit', () => failed(new Error('The server did not start; it says why above.'))))
  return server
}

export async function stopServer(server: ChildProcess): Promise<void> {
  if (server.exitCode !== null || server.signalCode !== null) return
  const gone = new Promise((resolve) => server.once('exit', resolve))
  server.kill('SIGTERM')
  await gone
}
