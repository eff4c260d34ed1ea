/** The steps of a file, done by the server. */
import { API } from '@dime-gate/contract/api'
import { mergeAnswerSchema } from '@dime-gate/contract/change'
import { fileLookSchema, stagedFileSchema, tableSchema } from '@dime-gate/contract/table'
import { askAtLength, send } from '../shared/api'
import type { FileSteps } from './file-on-its-way'

export const serverSteps: FileSteps = {
  send: (file, progress, signal) =>
    send(stagedFileSchema, `/files?${new URLSearchParams({ name: file.name.slice(-400) })}`, file, progress, signal),
  look: (id, choice, heard, signal) => askAtLength(fileLookSchema, `/files/${id}/looks`, choice, heard, signal),
  merge: (tableId, request, heard, signal) => askAtLength(mergeAnswerSchema, `/tables/${tableId}/merges`, request, heard, signal),
  bringIn: (request, heard, signal) => askAtLength(tableSchema, '/tables', request, heard, signal),
  // Whether it goes now or in an hour is nobody's concern.
  forget: (id) => void fetch(`${API}/files/${id}`, { method: 'DELETE', keepalive: true }).catch(() => undefined),
}
