import { AWAY, ifMatch, Trouble, troubleOf, versionIn } from '../api/client'
import { makeOutbox } from './makeOutbox'
import type { Change } from './outboxMachine'

/** A change as the server takes it. */
async function sendChange({ path, body, base }: Change) {
  let response
  try {
    response = await fetch(path, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', ...ifMatch(base) },
      body: JSON.stringify(body),
    })
  } catch {
    throw new Trouble(AWAY, true)
  }
  const answer: unknown = await response.json().catch(() => undefined)
  if (!response.ok) throw troubleOf(response, answer)
  return { answer, version: versionIn(response) }
}

export const outbox = makeOutbox(sendChange, localStorage)
