// Whether the server lets this device in: it is paired by a one-time code, and stays so until somebody
// shuts it out. What is kept here stays here either way.
import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import type { Schemas } from '../core/core'
import { paired, publicKey } from './deviceKey'
import { ask } from './outbox'

export type Session = Schemas['ApiSessionBody']

/** What the server said of this device last, also before this page was loaded. */
export const session = useLocalStorage<Session | null>('session', null, { serializer: StorageSerializers.object })

const QUICK = 10_000

export async function askSession(): Promise<Session> {
  const answer = await ask('/api/session', QUICK)
  session.value = (await answer.json()) as Session
  return session.value
}

/** What came of a code: the session, or what was wrong with it. */
export async function pair(code: string, name: string): Promise<Response> {
  const answer = await ask('/api/pair', QUICK, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ code, name, key: await publicKey() }),
  })
  if (answer.ok) await paired((await askSession()).device)
  return answer
}
