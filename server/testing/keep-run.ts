/** A run that is kept, once it is done; for tests. */
import type { Run, RunAsked } from '@dime-gate/contract/run'
import type { TemporaryServer } from './temporary-server'

export async function keepRun(server: TemporaryServer, request: RunAsked): Promise<Run> {
  const { status, body } = await server.ask('POST', '/runs', request)
  if (status !== 201) throw new Error(JSON.stringify(body))
  return ended(server, (body as Run).id)
}

/** The run as it is once nobody is at it any more. */
export async function ended(server: TemporaryServer, id: number): Promise<Run> {
  for (;;) {
    const run: Run = (await server.ask('GET', `/runs/${id}`)).body
    if (run.state !== 'under way') return run
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
}
