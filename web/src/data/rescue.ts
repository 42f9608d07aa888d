// What is only on this device, as a file, and back in on another one: a tablet that dies loses
// nothing that was saved so.
import { call } from '../core/core'
import { local, type LocalEntry } from './local'
import { changed } from './sync'

const FORMAT = 'dusha.only-here/1'

interface OnlyHere {
  format: string
  entries: { jobId: string; areaId: string; bytes: string; act?: string }[]
  names: { id: string; name: string }[]
  photos: { id: string; jobId: string; media: string; base64: string }[]
}

const toBase64 = async (blob: Blob): Promise<string> => {
  const bytes = new Uint8Array(await blob.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}
const fromBase64 = (text: string, media: string): Blob =>
  new Blob([Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))], { type: media })

/** All that waits to be delivered or was refused. */
export async function saveOnlyHere(): Promise<{ text: string; count: number }> {
  const entries = await local.entries.where('state').anyOf('waiting', 'aside').toArray()
  const names = await local.names.where('waiting').above(0).toArray()
  const photos = await local.photos.where('waiting').above(0).toArray()
  const file: OnlyHere = {
    format: FORMAT,
    entries: entries.map(({ jobId, areaId, bytes, act }) => ({ jobId, areaId, bytes, ...(act ? { act } : {}) })),
    names: names.map(({ id, name }) => ({ id, name })),
    photos: await Promise.all(
      photos.map(async ({ id, jobId, jpeg }) => ({ id, jobId, media: jpeg.type, base64: await toBase64(jpeg) })),
    ),
  }
  return { text: JSON.stringify(file), count: entries.length + names.length + photos.length }
}

/** Takes such a file in: what is here already stays as it is, each entry passes the reader again. */
export async function takeIn(text: string): Promise<{ taken: number; refused: number } | null> {
  let file: OnlyHere
  try {
    file = JSON.parse(text) as OnlyHere
  } catch {
    return null
  }
  if (file?.format !== FORMAT || !Array.isArray(file.entries)) return null
  let [taken, refused] = [0, 0]
  for (const { bytes, act } of file.entries) {
    try {
      const entry = JSON.parse(bytes) as { id: string; jobId: string; areaId?: string }
      await call('logbook.check', { entry })
      if (await local.entries.get(entry.id)) continue
      const kept: LocalEntry = {
        id: entry.id,
        jobId: entry.jobId,
        areaId: entry.areaId ?? '',
        bytes,
        state: 'waiting',
        notBefore: 0,
        faults: [],
        ...(act ? { act } : {}),
      }
      await local.entries.put(kept)
      taken++
    } catch {
      refused++
    }
  }
  for (const { id, name } of file.names ?? [])
    if (!(await local.names.get(id))?.name) {
      await local.names.put({ id, name: String(name).toWellFormed(), waiting: 1 })
      taken++
    }
  for (const { id, jobId, media, base64 } of file.photos ?? [])
    if (!(await local.photos.get(id))) {
      await local.photos.put({ id, jobId, jpeg: fromBase64(base64, media), waiting: 1 })
      taken++
    }
  changed()
  return { taken, refused }
}
