// Photos are made smaller before they are kept: enough to see a crack, small enough for a
// site's signal. They lie in the local copy until the server has them.
import type { Schemas } from '../core/core'
import { newId } from './ids'
import { local } from './local'
import { keep } from './storage'
import { changed } from './sync'

export type Photo = Schemas['LogbookPhoto']

const LONGEST = 1600
const QUALITY = 0.8

async function smaller(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(picture.width * scale)
  canvas.height = Math.round(picture.height * scale)
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return new Promise((resolve, reject) =>
    canvas.toBlob((jpeg) => (jpeg ? resolve(jpeg) : reject(new Error('no picture'))), 'image/jpeg', QUALITY),
  )
}

/** Keeps a picture and gives what an entry says of it; null when the file is no picture. */
export async function keepPhoto(jobId: string, file: Blob): Promise<Photo | null> {
  let jpeg: Blob
  try {
    jpeg = await smaller(file)
  } catch {
    return null
  }
  return keepBytes(jobId, jpeg)
}

/** Keeps a picture or a paper in the local copy, to be delivered, and gives what an entry says of it. */
export async function keepBytes(jobId: string, file: Blob): Promise<Photo> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer()))
  const sha256 = [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  const id = newId()
  await keep(() => local.photos.put({ id, jobId, jpeg: file, waiting: 1 }))
  changed()
  return { id, sha256 }
}

/** Where a photo can be seen: this device's own copy, else the server's. */
export async function photoUrl(jobId: string, id: string): Promise<string> {
  const own = await local.photos.get(id)
  return own ? URL.createObjectURL(own.jpeg) : `/api/jobs/${jobId}/photos/${id}`
}
