import { t } from '@/i18n'

/** The first picture of a film, as PNG. */
export async function posterOf(film: Blob): Promise<Blob> {
  const url = URL.createObjectURL(film)
  const video = document.createElement('video')
  video.muted = true
  video.preload = 'auto'
  try {
    await new Promise<void>((resolve, reject) => {
      video.onloadeddata = () => resolve()
      video.onerror = () => reject(new Error(t('look.thisBrowserCannotPlay')))
      video.src = url
    })
    const canvas = document.createElement('canvas')
    canvas.width = video.videoWidth
    canvas.height = video.videoHeight
    canvas.getContext('2d')?.drawImage(video, 0, 0)
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
    if (!blob) throw new Error(t('look.theFirstPicture'))
    return blob
  } finally {
    URL.revokeObjectURL(url)
  }
}
