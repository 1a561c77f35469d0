import { t } from '@/i18n'

/** What the server takes; it checks again. */
const MAX_BYTES = 8 * 1024 * 1024
const MAX_PIXELS = 25_000_000
/** The longer side that a larger picture is made smaller to here, in pixels: more than is kept. */
const SMALLER = 3200

const STAYS = t('pictures.thePictureYouHad')

/** A file as it can be sent: made smaller here where it is larger than what is taken. Throws why when it cannot be used. */
export async function fitToSend(file: File): Promise<Blob> {
  const size = await measure(file)
  if (!size) throw new Error(t('pictures.thisFile', { stays: STAYS }))
  if (file.size <= MAX_BYTES && size.width * size.height <= MAX_PIXELS) return file
  const smaller = await shrink(file, size)
  if (!smaller || smaller.size > MAX_BYTES)
    throw new Error(t('pictures.thisPictureIsTooLarge', { stays: STAYS }))
  return smaller
}

async function shrink(file: File, size: { width: number; height: number }): Promise<Blob | undefined> {
  const by = Math.min(1, SMALLER / Math.max(size.width, size.height))
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
