import { t } from '@/i18n'

/** What the server takes, in bytes; it checks again. */
const MAX_BYTES = 8 * 1024 * 1024
/** The longer side that pictures are kept at, in pixels: more is not sent, which is quicker on a phone. */
const KEPT = 2400
/** The longer side where one of that size is still too many bytes, as a photograph in a PNG may be. */
const SMALLER = 1680

const STAYS = t('pictures.thePictureYouHad')

/** A picture as it is sent: made smaller here where it is larger than what is kept. Throws why when it cannot be used. */
export async function fitToSend(file: File): Promise<Blob> {
  const size = await measure(file)
  if (!size) throw new Error(t('pictures.thisFile', { stays: STAYS }))
  if (file.size <= MAX_BYTES && Math.max(size.width, size.height) <= KEPT) return file
  for (const side of [KEPT, SMALLER]) {
    const smaller = await shrink(file, size, side)
    if (smaller && smaller.size <= MAX_BYTES) return smaller
  }
  throw new Error(t('pictures.thisPictureIsTooLarge', { stays: STAYS }))
}

async function shrink(
  file: File,
  size: { width: number; height: number },
  side: number,
): Promise<Blob | undefined> {
  const by = Math.min(1, side / Math.max(size.width, size.height))
  const width = Math.max(1, Math.round(size.width * by))
  const height = Math.max(1, Math.round(size.height * by))
  try {
    const drawn = await createImageBitmap(file, {
      resizeWidth: width,
      resizeHeight: height,
      resizeQuality: 'high',
    })
    const canvas = new OffscreenCanvas(width, height)
    canvas.getContext('2d')?.drawImage(drawn, 0, 0)
    drawn.close()
    const kind = file.type === 'image/jpeg' ? 'image/jpeg' : 'image/png'
    return await canvas.convertToBlob({ type: kind, quality: 0.92 })
  } catch {
    return undefined
  }
}

/** The size of a picture, read without putting it on screen. */
function measure(file: File): Promise<{ width: number; height: number } | undefined> {
  const url = URL.createObjectURL(file)
  const picture = new Image()
  return new Promise<{ width: number; height: number } | undefined>((resolve) => {
    picture.onload = () => resolve({ width: picture.naturalWidth, height: picture.naturalHeight })
    picture.onerror = () => resolve(undefined)
    picture.src = url
  }).finally(() => URL.revokeObjectURL(url))
}
