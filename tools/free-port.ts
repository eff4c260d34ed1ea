/** A port of loopback that nobody listens on; somebody else may of course be quicker. */
import { createServer } from 'node:net'

export async function freePort(): Promise<number> {
  const server = createServer()
  await new Promise<void>((done, failed) => server.once('error', failed).listen(0, '127.0.0.1', done))
  const { port } = server.address() as { port: number }
  await new Promise((done) => server.close(done))
  return port
}
