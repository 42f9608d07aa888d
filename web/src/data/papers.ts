// Printed sheets as files: kept in the local copy beside the photos and delivered like them.
import { keepBytes, type Photo } from './photos'

/** The largest printed sheet that is kept, MB. */
export const MOST_MB = 10

export interface Refused {
  refused: 'too_large' | 'other_kind'
}

const STARTS = [
  [0x25, 0x50, 0x44, 0x46], // PDF
  [0xff, 0xd8, 0xff], // JPEG
  [0x89, 0x50, 0x4e, 0x47], // PNG
]

/** Keeps a file and gives what a sheet says of it, or why it is not kept. */
export async function keepFile(jobId: string, file: Blob): Promise<Photo | Refused> {
  if (file.size > MOST_MB * 2 ** 20) return { refused: 'too_large' }
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer())
  if (!STARTS.some((start) => start.every((byte, i) => head[i] === byte))) return { refused: 'other_kind' }
  return keepBytes(jobId, file)
}
