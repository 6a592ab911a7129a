// A photo as it is sent: no larger than what is kept of it, so that it is quick on a bad line
// and may wait in this browser. The server writes it anew all the same.

/** The longer side of what is kept, in pixels. */
export const LONG_SIDE = 1600
const QUALITY = 0.85

/** How large a picture is drawn: its shape, the longer side no longer than [LONG_SIDE]. */
export function drawnSize(width: number, height: number): { width: number; height: number } {
  const scale = Math.min(1, LONG_SIDE / Math.max(width, height))
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
}

/** A photo as a data URL of a JPEG; an Error with a sentence for what is no picture. */
export async function asJpeg(file: Blob): Promise<string> {
  let bitmap: ImageBitmap
  try {
    bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' })
  } catch {
    throw new Error('That is no picture that this browser can read.')
  }
  const canvas = document.createElement('canvas')
  Object.assign(canvas, drawnSize(bitmap.width, bitmap.height))
  const on = canvas.getContext('2d')
  if (!on) throw new Error('This browser cannot draw pictures.')
  on.fillStyle = '#fff'
  on.fillRect(0, 0, canvas.width, canvas.height)
  on.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  bitmap.close()
  return canvas.toDataURL('image/jpeg', QUALITY)
}

/** What a data URL holds, in base64. */
export const base64Of = (url: string) => url.slice(url.indexOf(',') + 1)
