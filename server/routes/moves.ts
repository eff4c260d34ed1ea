/**
 * What changes, told as it changes (RFC 6455): a line a page. Answers that never end would do as well, but a browser keeps
 * six of those at most, and a seventh page would wait for ever.
 */
import type { Server } from 'node:http'
import { API } from '@dime-gate/contract/api'
import { type WebSocket, WebSocketServer } from 'ws'
import type { ChangeTeller } from '../change/tell-changes'
import { isOfThisMachine } from '../http/only-this-machine'

const PATH = `${API}/moves`
/** Milliseconds in which a line gives a sign of life; one that does not is given up. */
const BEAT = 30_000
/** Nobody says anything here. */
const LONGEST = 1024

/** @returns what ends all lines */
export function tellMoves(server: Server, changes: ChangeTeller): () => void {
  const lines = new WebSocketServer({ noServer: true, maxPayload: LONGEST })
  const alive = new WeakSet<WebSocket>()
  server.on('upgrade', (request, socket, head) => {
    if (request.url !== PATH || !isOfThisMachine(request)) {
      socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n')
      return
    }
    lines.handleUpgrade(request, socket, head, (line) => {
      alive.add(line)
      line.on('pong', () => alive.add(line)).on('error', () => undefined)
      const stop = changes.listen((moved) => line.send(JSON.stringify(moved)))
      line.on('close', stop)
    })
  })
  const beats = setInterval(() => {
    for (const line of lines.clients) {
      if (!alive.delete(line)) line.terminate()
      else line.ping()
    }
  }, BEAT)
  server.on('close', () => clearInterval(beats))
  beats.unref()
  return () => lines.clients.forEach((line) => line.terminate())
}
